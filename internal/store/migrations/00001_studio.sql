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

-- A document is a card, or the paper on hand, of which there is one.
CREATE TABLE documents (
    id    INTEGER PRIMARY KEY,
    kind  TEXT NOT NULL CHECK (kind IN ('card', 'paper')),
    head  INTEGER NOT NULL,           -- the revision that is shown
    state TEXT NOT NULL DEFAULT 'shown' CHECK (state IN ('shown', 'archived', 'deleted')),
    made  INTEGER NOT NULL
) STRICT;
CREATE UNIQUE INDEX one_paper ON documents (kind) WHERE kind = 'paper';

CREATE TABLE revisions (
    document INTEGER NOT NULL REFERENCES documents(id) ON DELETE CASCADE,
    seq      INTEGER NOT NULL,        -- from 1, never reused
    parent   INTEGER NOT NULL,        -- seq of the revision it was made from, 0 for the first
    what     TEXT NOT NULL,           -- the change in a few words
    doc      TEXT NOT NULL,           -- the document's JSON
    made     INTEGER NOT NULL,
    PRIMARY KEY (document, seq)
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE revisions;
DROP TABLE documents;
DROP TABLE images;
