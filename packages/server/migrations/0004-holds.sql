-- When the aggregate correction factor of a revision was found: it is older than the gravities, or it is not.
ALTER TABLE mix_revision ADD COLUMN IF NOT EXISTS correction_on DATE AFTER correction_text;

-- How often what is derived of a mix was written: who writes it waits for whoever does.
ALTER TABLE mix ADD COLUMN IF NOT EXISTS writes BIGINT UNSIGNED NOT NULL DEFAULT 0;

-- From when on a value counts for others, where that is not the moment at which it was found; 9999 while it waits for a look.
ALTER TABLE gift ADD COLUMN IF NOT EXISTS counts_from DATETIME(3);

-- Field samples, tests with instruments in question, and mixes are judged once by what is new.
INSERT IGNORE INTO pending_line (line_id) SELECT DISTINCT line_id FROM item WHERE line_id IS NOT NULL;
INSERT IGNORE INTO pending_line (line_id) SELECT id FROM mix;
