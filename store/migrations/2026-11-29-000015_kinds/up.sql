-- What a thing is (its kind, whether it is needed, what of it is assumed), and the marks of what swaps put on.
ALTER TABLE gear ADD COLUMN IF NOT EXISTS identity TEXT NOT NULL DEFAULT '{}';
ALTER TABLE candidate ADD COLUMN IF NOT EXISTS identity TEXT NOT NULL DEFAULT '{}';
ALTER TABLE candidate ADD COLUMN IF NOT EXISTS tags TEXT NOT NULL DEFAULT '';
-- Cautions that were acknowledged, as they stood then.
ALTER TABLE pack_list ADD COLUMN IF NOT EXISTS known TEXT NOT NULL DEFAULT '[]';
