-- What the walker has found light things of a kind to weigh and cost, by the kind's key.
ALTER TABLE account ADD COLUMN IF NOT EXISTS typical TEXT NOT NULL DEFAULT '{}';
