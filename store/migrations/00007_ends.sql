-- +goose Up
-- A step has hands at its start and at its end. What is there already had none, and keeps that; the usual ones are for what
-- is written from now on.
UPDATE record SET body = jsonb_set(body, '{steps}', (
	SELECT jsonb_agg(CASE WHEN step ? 'ends' THEN step ELSE step || '{"ends": {"in_s": 0, "out_s": 0}}' END ORDER BY n)
	FROM jsonb_array_elements(body -> 'steps') WITH ORDINALITY AS s(step, n)))
WHERE kind = 'component' AND jsonb_typeof(body -> 'steps') = 'array' AND jsonb_array_length(body -> 'steps') > 0;

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
