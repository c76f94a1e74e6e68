-- What a change did, as a code with its figures; sentences that were written before stay where they are.
ALTER TABLE change_entry ADD COLUMN IF NOT EXISTS entry TEXT NULL, MODIFY said VARCHAR(300) NOT NULL DEFAULT '';
ALTER TABLE base_point ADD COLUMN IF NOT EXISTS entry TEXT NULL;
