-- +goose Up
-- The hand that made a change, as its page names itself: what a hand did itself, it need not have seen. Empty where it
-- is not known.
ALTER TABLE journal ADD COLUMN hand TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE journal DROP COLUMN hand;
