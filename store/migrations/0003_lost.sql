-- +goose Up
-- What was removed keeps the revision that removed it: whoever saw it before is told that it is gone.
CREATE TABLE removed (
    job     TEXT NOT NULL REFERENCES jobs (id),
    name    TEXT NOT NULL,
    version INTEGER NOT NULL, -- the revision of the job that removed it
    PRIMARY KEY (job, name)
) STRICT, WITHOUT ROWID;

-- What a change was asked of, "POST /match/decide": its id is good for that alone. Empty where it was made before this
-- was noted.
ALTER TABLE journal ADD COLUMN path TEXT NOT NULL DEFAULT '';

-- A job that is deleted says when, Unix milliseconds, and can be brought back for 30 days from then.
UPDATE jobs SET deleted = CAST(unixepoch() AS INTEGER) * 1000 WHERE deleted = 1;

-- +goose Down
UPDATE jobs SET deleted = 1 WHERE deleted > 0;
ALTER TABLE journal DROP COLUMN path;
DROP TABLE removed;
