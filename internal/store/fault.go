package store

import (
	"errors"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// Fault is what keeps the studio file from being read or written.
type Fault string

// The faults, in words for the maker.
const (
	DiskFull Fault = "the disk is full: what you did last was not kept, all before it is. Make room on it, then do it again"
	ReadOnly Fault = "the studio file may not be written: what you did last was not kept, all before it is. Let its folder and its disk be written, then do it again"
	Held     Fault = "another program holds the studio file: what you did last was not kept, all before it is. Close that program, then do it again"
	DiskBad  Fault = "the disk failed to read or write the studio file: what you did last was not kept. See to the disk, and save a backup elsewhere"
	Damaged  Fault = "the studio file is damaged: not all of it can be read. Go back to a copy of it; the damaged file is kept beside it"
)

// errDamaged means that a file is not what SQLite wrote.
var errDamaged = errors.New("damaged")

// FaultOf tells whether an error comes from the disk and not from what was asked for, and
// what there is to say of it.
func FaultOf(err error) (Fault, bool) {
	if errors.Is(err, errDamaged) {
		return Damaged, true
	}
	var e *sqlite.Error
	if !errors.As(err, &e) {
		return "", false
	}
	const primary = 0xff // an extended code holds the code it refines in its lowest byte
	switch e.Code() & primary {
	case sqlite3.SQLITE_FULL:
		return DiskFull, true
	case sqlite3.SQLITE_READONLY, sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_PERM:
		return ReadOnly, true
	case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED:
		return Held, true
	case sqlite3.SQLITE_IOERR:
		return DiskBad, true
	case sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB:
		return Damaged, true
	}
	return "", false
}
