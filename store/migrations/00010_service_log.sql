-- +goose Up
-- What happens in a service, one row an event. Rows are only added. Their numbers come from a counter row of the service, the first thing
-- that a transaction takes, so that nobody who asks for what came after n ever misses one that is written later with a smaller number.
CREATE TABLE service_log (
    service text   PRIMARY KEY,
    last    bigint NOT NULL
);

CREATE TABLE service_event (
    service     text        NOT NULL REFERENCES service_log (service),
    seq         bigint      NOT NULL CHECK (seq > 0),
    id          text        NOT NULL,
    at          timestamptz NOT NULL,
    received_at timestamptz NOT NULL,
    kind        text        NOT NULL,
    body        json        NOT NULL, -- the event as it is sent out
    PRIMARY KEY (service, seq),
    UNIQUE (service, id)
);

-- What happened stays as it was written.
-- +goose StatementBegin
CREATE FUNCTION service_event_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'the log of a service is only added to';
END $$;
-- +goose StatementEnd
CREATE TRIGGER service_event_stays BEFORE UPDATE OR DELETE ON service_event
    FOR EACH ROW EXECUTE FUNCTION service_event_stays();

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
