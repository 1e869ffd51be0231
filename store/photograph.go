package store

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"
)

// Photograph returns a dish's picture as JPEG with its number, which grows with every
// new picture; ErrNotFound when it has none.
func (s *Store) Photograph(ctx context.Context, dish string) (jpeg []byte, number int64, err error) {
	var row struct {
		Number int64  `db:"number"`
		JPEG   []byte `db:"jpeg"`
	}
	err = s.db.GetContext(ctx, &row, `SELECT number, jpeg FROM photograph WHERE dish = $1 ORDER BY number DESC LIMIT 1`, dish)
	if errors.Is(err, sql.ErrNoRows) || err == nil && row.JPEG == nil {
		return nil, 0, ErrNotFound
	}
	return row.JPEG, row.Number, err
}

// PhotographNumber is the number of a dish's picture, 0 when it has none.
func (s *Store) PhotographNumber(ctx context.Context, dish string) (int64, error) {
	var n int64
	err := s.db.GetContext(ctx, &n, `SELECT CASE WHEN jpeg IS NULL THEN 0 ELSE number END AS current FROM photograph WHERE dish = $1 ORDER BY photograph.number DESC LIMIT 1`, dish)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, nil
	}
	return n, err
}

// SetPhotograph gives a dish a picture, or takes it off when jpeg is nil. Earlier ones
// are kept. ErrNotFound when there is no such dish.
func (s *Store) SetPhotograph(ctx context.Context, dish string, jpeg []byte) error {
	return s.write(ctx, func(tx *sqlx.Tx, snap *Snapshot) error {
		if snap.Versions[Key{DishKind, dish}] == 0 {
			return ErrNotFound
		}
		var picture any // a nil slice would be written as an empty picture
		if jpeg != nil {
			picture = jpeg
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO photograph (dish, jpeg, person, added_at) VALUES ($1, $2, $3, $4)`, dish, picture, whoOf(ctx), s.clock())
		return err
	})
}
