-- Every statement can be run again: a server that was ended half way goes on from where it was.
ALTER TABLE account ADD COLUMN IF NOT EXISTS disabled_at DATETIME(6) NULL;

-- What each server process writes when it is asked whether it is well.
CREATE TABLE IF NOT EXISTS server_beat (
    server BINARY(16) NOT NULL PRIMARY KEY,
    beat_at DATETIME(6) NOT NULL
);
