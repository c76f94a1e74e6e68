-- When it was said what a thing is worth; what was said before there were days is taken as said today.
ALTER TABLE gear ADD COLUMN IF NOT EXISTS resale_at DATETIME(6) NULL AFTER resale_minor;
UPDATE gear SET resale_at = UTC_TIMESTAMP(6) WHERE resale_minor IS NOT NULL AND resale_at IS NULL;
