package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
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
	err := s.db.GetContext(ctx, &n, `SELECT CASE WHEN jpeg IS NULL THEN 0 ELSE number END AS current
		FROM photograph WHERE dish = $1 ORDER BY photograph.number DESC LIMIT 1`, dish)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, nil
	}
	return n, err
}

// SetPhotograph gives a dish a picture, or takes it off when jpeg is nil. Earlier ones
// are kept. ErrNotFound when there is no such dish.
func (s *Store) SetPhotograph(ctx context.Context, dish string, jpeg []byte) error {
	var picture any // a nil slice would be written as an empty picture
	if jpeg != nil {
		picture = jpeg
	}
	done, err := s.db.ExecContext(ctx, `INSERT INTO photograph (dish, jpeg, person, added_at)
		SELECT id, $2, $3, $4 FROM record WHERE kind = 'dish' AND id = $1`, dish, picture, whoOf(ctx), s.clock())
	if err != nil {
		return fmt.Errorf("writing the picture of %q: %w", dish, err)
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNotFound, err)
	}
	return nil
}
