package store

import "database/sql"

// NullID is an ID for the database, where 0 is none.
func NullID(id int64) sql.NullInt64 { return sql.NullInt64{Int64: id, Valid: id != 0} }
