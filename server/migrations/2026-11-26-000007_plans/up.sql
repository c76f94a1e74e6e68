-- How the plan of a list is asked for, beside target and budget: as JSON.
ALTER TABLE pack_list ADD COLUMN IF NOT EXISTS terms TEXT NOT NULL DEFAULT '{}' AFTER ways;

-- What was done when a swap was made for good, as JSON; nothing while it is a plan.
ALTER TABLE swap ADD COLUMN IF NOT EXISTS done TEXT NULL AFTER tenth_hours;
