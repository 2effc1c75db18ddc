-- +goose Up
-- A test is a record of what was measured; it is hidden, never changed.
CREATE TABLE tests (
    id     INTEGER PRIMARY KEY,
    made   INTEGER NOT NULL,           -- Unix seconds
    hidden INTEGER NOT NULL DEFAULT 0,
    doc    TEXT NOT NULL               -- JSON
) STRICT;

-- +goose Down
DROP TABLE tests;
