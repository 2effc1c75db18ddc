-- +goose Up
-- What happens at the bench: a run of some cards, and its events, which are appended and
-- never changed.
CREATE TABLE runs (
    id   INTEGER PRIMARY KEY,
    doc  TEXT NOT NULL,               -- JSON: what lay on the bench, and how it was set
    over INTEGER NOT NULL DEFAULT 0,  -- 1 once it has ended
    made INTEGER NOT NULL             -- Unix milliseconds
) STRICT;
CREATE TABLE events (
    run  INTEGER NOT NULL REFERENCES runs(id) ON DELETE CASCADE,
    seq  INTEGER NOT NULL,            -- from 1
    at   INTEGER NOT NULL,            -- Unix milliseconds, by the clock of the program
    once TEXT NOT NULL,               -- names the press: it counts once however often it arrives
    doc  TEXT NOT NULL,               -- JSON of the rest
    PRIMARY KEY (run, seq)
) STRICT, WITHOUT ROWID;
CREATE UNIQUE INDEX presses ON events (run, once) WHERE once <> '';
-- What was seen of how things dry and how long they take, by the event that told it, so
-- that it is gone with an event that is taken back.
CREATE TABLE seen (
    id   INTEGER PRIMARY KEY,
    run  INTEGER NOT NULL REFERENCES runs(id) ON DELETE CASCADE,
    seq  INTEGER NOT NULL,
    kind TEXT NOT NULL,
    name TEXT NOT NULL,
    lo   REAL,                        -- logarithms of took over estimate; NULL for no bound
    hi   REAL
) STRICT;
CREATE INDEX seen_of ON seen (kind, name);
-- What came of practising, an exercise a row.
CREATE TABLE practice (
    id    INTEGER PRIMARY KEY,
    task  TEXT NOT NULL,
    score INTEGER NOT NULL,           -- 0 to 100
    made  INTEGER NOT NULL            -- Unix seconds
) STRICT;

-- +goose Down
DROP TABLE practice;
DROP TABLE seen;
DROP TABLE events;
DROP TABLE runs;
