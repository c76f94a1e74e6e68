-- Whether what a swap's old things bring counts though another list needs them.
ALTER TABLE swap ADD COLUMN IF NOT EXISTS sells_needed BOOL NOT NULL DEFAULT FALSE AFTER resale_minor;
