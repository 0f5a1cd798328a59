-- What of a finding cannot be decided, with why.
ALTER TABLE finding ADD COLUMN IF NOT EXISTS cannot TEXT NOT NULL DEFAULT '[]' AFTER choices;

-- What waits for somebody's word is judged once by what is new.
INSERT IGNORE INTO pending_line (line_id) SELECT DISTINCT line_id FROM finding WHERE choices <> '[]';
