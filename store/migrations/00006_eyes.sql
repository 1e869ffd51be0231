-- +goose Up
-- How many things a person watches at once is said of each of them. It was four for everybody.
UPDATE record SET body = body || '{"eyes": 4}' WHERE kind = 'person' AND NOT body ? 'eyes';

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
