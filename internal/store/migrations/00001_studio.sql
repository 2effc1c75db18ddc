-- +goose Up
CREATE TABLE images (
    hash   TEXT PRIMARY KEY,          -- SHA-256 of data, hexadecimal
    title  TEXT NOT NULL,
    media  TEXT NOT NULL,             -- image/png or image/jpeg
    width  INTEGER NOT NULL,          -- pixels
    height INTEGER NOT NULL,
    sample INTEGER NOT NULL DEFAULT 0, -- offered as a drawing to start from
    width_nm INTEGER NOT NULL DEFAULT 0, -- real width where it is known
    added  INTEGER NOT NULL,          -- Unix seconds
    data   BLOB NOT NULL              -- last: whoever lists images need not read past it
) STRICT;

CREATE TABLE cards (
    id   INTEGER PRIMARY KEY,
    head INTEGER NOT NULL,            -- the revision that is shown
    made INTEGER NOT NULL
) STRICT;

CREATE TABLE revisions (
    card   INTEGER NOT NULL REFERENCES cards(id) ON DELETE CASCADE,
    seq    INTEGER NOT NULL,          -- from 1, never reused
    parent INTEGER NOT NULL,          -- seq of the revision it was made from, 0 for the first
    what   TEXT NOT NULL,             -- the change in a few words
    doc    TEXT NOT NULL,             -- the card's JSON
    made   INTEGER NOT NULL,
    PRIMARY KEY (card, seq)
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE revisions;
DROP TABLE cards;
DROP TABLE images;
