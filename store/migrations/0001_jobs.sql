-- +goose Up
CREATE TABLE jobs (
    id       TEXT PRIMARY KEY,
    revision INTEGER NOT NULL,
    created  INTEGER NOT NULL, -- Unix milliseconds, UTC
    changed  INTEGER NOT NULL,
    deleted  INTEGER NOT NULL DEFAULT 0
) STRICT;

-- Facts and decisions of a job, one row a subject: "job", "table/from", "kept", "decision/from/A/14".
CREATE TABLE subjects (
    job     TEXT NOT NULL REFERENCES jobs (id),
    name    TEXT NOT NULL,
    body    TEXT NOT NULL CHECK (json_valid(body)),
    version INTEGER NOT NULL, -- the revision of the job that wrote it
    PRIMARY KEY (job, name)
) STRICT, WITHOUT ROWID;

-- Every change, for ever. The id is the client's: a retry is not a second change.
CREATE TABLE journal (
    seq      INTEGER PRIMARY KEY,
    id       TEXT NOT NULL UNIQUE,
    job      TEXT NOT NULL REFERENCES jobs (id),
    revision INTEGER NOT NULL,
    who      TEXT NOT NULL,
    at       INTEGER NOT NULL, -- Unix milliseconds, UTC
    what     TEXT NOT NULL,
    reason   TEXT NOT NULL,
    payload  INTEGER NOT NULL, -- version of the form of changes
    changes  TEXT NOT NULL CHECK (json_valid(changes)), -- subjects with their bodies before and after
    undoes   INTEGER REFERENCES journal (seq),
    undone   INTEGER REFERENCES journal (seq)
) STRICT;

CREATE INDEX journal_by_job ON journal (job, seq);

-- +goose Down
DROP TABLE journal;
DROP TABLE subjects;
DROP TABLE jobs;
