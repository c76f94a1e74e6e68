-- A digest of what a request asked for, so that another one under the same key is told from it.
ALTER TABLE answered ADD COLUMN IF NOT EXISTS asked BINARY(32) NULL;
