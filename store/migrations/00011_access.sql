-- +goose Up
-- Who may sign in, as what, and with what. A secret is kept only as its hash. The number grows with every change, so that whoever signed in
-- with what was before is signed in no more.
CREATE TABLE person_access (
    person text        PRIMARY KEY,
    role   text        NOT NULL CHECK (role IN ('chef', 'pass', 'section', 'floor', 'board')),
    secret text        NOT NULL,
    number bigint      NOT NULL,
    set_at timestamptz NOT NULL
);

-- Screens that were paired, each with its place.
CREATE TABLE device (
    id        text        PRIMARY KEY,
    name      text        NOT NULL,
    role      text        NOT NULL CHECK (role IN ('pass', 'section', 'floor', 'board')),
    section   text        NOT NULL,
    paired_at timestamptz NOT NULL,
    ended_at  timestamptz
);

-- Codes by which a screen is paired, once.
CREATE TABLE pairing (
    code    bytea       PRIMARY KEY, -- its SHA-256
    name    text        NOT NULL,
    role    text        NOT NULL CHECK (role IN ('pass', 'section', 'floor', 'board')),
    section text        NOT NULL,
    until   timestamptz NOT NULL,
    device  text        REFERENCES device (id)
);

-- How often somebody guessed wrong, by whom and from where.
CREATE TABLE guess (
    key      text        PRIMARY KEY,
    failures integer     NOT NULL,
    last     timestamptz NOT NULL
);

-- Sessions, as their manager keeps them: tokens only as their hashes.
CREATE TABLE sessions (
    token  text        PRIMARY KEY,
    data   bytea       NOT NULL,
    expiry timestamptz NOT NULL
);
CREATE INDEX sessions_expiry ON sessions (expiry);

-- What was done about all this, by whom. Rows are only added.
CREATE TABLE access_log (
    number bigint      GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at     timestamptz NOT NULL,
    by     text        NOT NULL, -- a person's name, '' where nobody was known
    what   text        NOT NULL,
    about  text        NOT NULL  -- a person's or a screen's name
);

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
