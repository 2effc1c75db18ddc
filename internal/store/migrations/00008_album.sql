-- +goose Up
-- Photos of what was made, and what was read of them. They belong to a run at the bench, or
-- to what was entered by hand.
CREATE TABLE entries (
    id   INTEGER PRIMARY KEY,
    card INTEGER NOT NULL,
    doc  TEXT NOT NULL,    -- JSON: the day, how many, how long, how it turned out
    made INTEGER NOT NULL  -- Unix seconds
) STRICT;
CREATE INDEX entries_of ON entries (card);
CREATE TABLE photos (
    id        INTEGER PRIMARY KEY,
    run       INTEGER REFERENCES runs(id) ON DELETE CASCADE,
    entry     INTEGER REFERENCES entries(id) ON DELETE CASCADE,
    card      INTEGER NOT NULL,
    piece     TEXT NOT NULL,
    data      BLOB NOT NULL,    -- JPEG, without what the camera wrote into it
    squared   BLOB NOT NULL,    -- JPEG of the panel in it, upright and evened; empty when it was not found
    reading   TEXT NOT NULL,    -- JSON, "" when it was not read
    why       TEXT NOT NULL,    -- why it was not read
    simulated INTEGER NOT NULL, -- 1 when the practice camera took it
    made      INTEGER NOT NULL, -- Unix seconds
    CHECK ((run IS NULL) <> (entry IS NULL))
) STRICT;
CREATE INDEX photos_of_run ON photos (run);
CREATE INDEX photos_of_entry ON photos (entry);

-- +goose Down
DROP TABLE photos;
DROP TABLE entries;
