-- Three ways of comparing with a limit; moistures on the ticket; what kind of aggregate a mix has.

ALTER TABLE specification CHANGE COLUMN IF EXISTS school comparison VARCHAR(10) CHARACTER SET ascii NOT NULL;

ALTER TABLE ticket_material ADD COLUMN IF NOT EXISTS moisture_text VARCHAR(24) CHARACTER SET ascii;
ALTER TABLE ticket_material ADD COLUMN IF NOT EXISTS absorption_text VARCHAR(24) CHARACTER SET ascii;

ALTER TABLE mix_revision ADD COLUMN IF NOT EXISTS aggregate VARCHAR(10) CHARACTER SET ascii NOT NULL DEFAULT 'normal';
