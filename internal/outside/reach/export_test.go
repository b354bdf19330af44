package reach

// Refuse tells whether an address that is dialled is refused, without dialling it.
func Refuse(address string) error { return refusePrivate("tcp", address, nil) }
