package reach

import "time"

// Hurry lets requests take only so long.
func Hurry(d time.Duration) (back func()) {
	was := exchangeTime
	exchangeTime = d
	return func() { exchangeTime = was }
}

// Refuse tells whether an address that is dialled is refused, without dialling it.
func Refuse(address string) error { return refusePrivate("tcp", address, nil) }
