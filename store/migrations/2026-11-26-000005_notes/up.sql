-- What there is to say of a thing in words; a list from elsewhere often has such a column.
ALTER TABLE gear ADD COLUMN IF NOT EXISTS note VARCHAR(500) NOT NULL DEFAULT '' AFTER kept_at;
