package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"
)

// MaxDevices bounds how many devices may come in over the network.
const MaxDevices = 40

// ErrManyDevices means that no more devices can be let in.
var ErrManyDevices = fmt.Errorf("%d devices are let in already; put one out in Settings first", MaxDevices)

// A Device may come in over the network. Who may is no part of what a backup puts back.
type Device struct {
	ID         int64
	Name       string
	Made, Seen time.Time
}

// Devices lists the devices that may come in, the one seen last first.
func (s *Store) Devices(ctx context.Context) (out []Device, err error) {
	rows, err := s.db().QueryContext(ctx, "SELECT id, name, made, seen FROM devices ORDER BY seen DESC, id DESC")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		d, err := scanDevice(rows)
		if err != nil {
			return nil, err
		}
		out = append(out, d)
	}
	return out, rows.Err()
}

func scanDevice(row scanner) (d Device, err error) {
	var made, seen int64
	err = row.Scan(&d.ID, &d.Name, &made, &seen)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	d.Made, d.Seen = time.Unix(made, 0), time.Unix(seen, 0)
	return d, err
}

// DeviceOf returns the device that keeps the token of a hash.
func (s *Store) DeviceOf(ctx context.Context, token string) (Device, error) {
	return scanDevice(s.db().QueryRowContext(ctx, "SELECT id, name, made, seen FROM devices WHERE token = ?", token))
}

// LetIn adds a device by the hash of its token.
func (s *Store) LetIn(ctx context.Context, name, token string) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		var n int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM devices").Scan(&n); err != nil {
			return err
		}
		if n >= MaxDevices {
			return ErrManyDevices
		}
		now := s.now().Unix()
		_, err := tx.ExecContext(ctx, "INSERT INTO devices (name, token, made, seen) VALUES (?, ?, ?, ?)", name, token, now, now)
		return err
	})
}

// SeeDevice notes that a device was here now.
func (s *Store) SeeDevice(ctx context.Context, id int64) error {
	_, err := s.db().ExecContext(ctx, "UPDATE devices SET seen = ? WHERE id = ?", s.now().Unix(), id)
	return err
}

// NameDevice calls a device something else.
func (s *Store) NameDevice(ctx context.Context, id int64, name string) error {
	return oneRow(s.db().ExecContext(ctx, "UPDATE devices SET name = ? WHERE id = ?", name, id))
}

// PutOut lets a device in no more.
func (s *Store) PutOut(ctx context.Context, id int64) error {
	return oneRow(s.db().ExecContext(ctx, "DELETE FROM devices WHERE id = ?", id))
}

// Passphrase returns what is kept of the passphrase, "" when none was set.
func (s *Store) Passphrase(ctx context.Context) (hash string, err error) {
	err = s.db().QueryRowContext(ctx, "SELECT hash FROM passphrase").Scan(&hash)
	if errors.Is(err, sql.ErrNoRows) {
		err = nil
	}
	return hash, err
}

// SetPassphrase keeps what is to be kept of a passphrase.
func (s *Store) SetPassphrase(ctx context.Context, hash string) error {
	_, err := s.db().ExecContext(ctx, "INSERT INTO passphrase (id, hash) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET hash = excluded.hash", hash)
	return err
}
