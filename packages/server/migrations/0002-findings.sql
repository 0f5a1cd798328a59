-- What several things on record mean together, and what somebody decided.

-- The head of the line that an item is judged on, and how often the line was written: who writes it waits for whoever does.
ALTER TABLE item
  ADD COLUMN IF NOT EXISTS line_id UUID AFTER parent_id,
  ADD COLUMN IF NOT EXISTS writes BIGINT UNSIGNED NOT NULL DEFAULT 0,
  ADD INDEX IF NOT EXISTS by_line (line_id, kind);

-- What lies in a pour, a source or a structure begins a line; all else is on the line of what it lies in.
UPDATE item SET line_id = id WHERE line_id IS NULL AND parent_id IS NULL;
UPDATE item i JOIN item p ON p.id = i.parent_id SET i.line_id = i.id WHERE i.line_id IS NULL AND p.kind IN ('pour', 'source', 'structure');
UPDATE item i JOIN item p ON p.id = i.parent_id SET i.line_id = p.line_id WHERE i.line_id IS NULL AND p.line_id IS NOT NULL;
UPDATE item i JOIN item p ON p.id = i.parent_id SET i.line_id = p.line_id WHERE i.line_id IS NULL AND p.line_id IS NOT NULL;
UPDATE item i JOIN item p ON p.id = i.parent_id SET i.line_id = p.line_id WHERE i.line_id IS NULL AND p.line_id IS NOT NULL;
UPDATE item i JOIN item p ON p.id = i.parent_id SET i.line_id = p.line_id WHERE i.line_id IS NULL AND p.line_id IS NOT NULL;
UPDATE item i JOIN item p ON p.id = i.parent_id SET i.line_id = p.line_id WHERE i.line_id IS NULL AND p.line_id IS NOT NULL;
UPDATE item i JOIN item p ON p.id = i.parent_id SET i.line_id = p.line_id WHERE i.line_id IS NULL AND p.line_id IS NOT NULL;

-- What somebody decided where the figures alone do not settle it. Originals: a later word is a decision of its own.
CREATE TABLE IF NOT EXISTS decision (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  -- The finding that it answers: what it is about, of which kind, and which of several.
  subject_id UUID NOT NULL,
  finding VARCHAR(40) CHARACTER SET ascii NOT NULL,
  part VARCHAR(80) CHARACTER SET ascii NOT NULL,
  decided VARCHAR(20) CHARACTER SET ascii NOT NULL,
  -- A person here, or somebody named with their firm.
  who_id UUID,
  who_name VARCHAR(120),
  firm VARCHAR(120),
  why VARCHAR(400) NOT NULL,
  paper VARCHAR(200),
  decided_at DATETIME(3) NOT NULL,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (subject_id),
  KEY (project_id, made_at),
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (who_id) REFERENCES person (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- A decision that was put on record by mistake counts no more; it stays, with the reason.
CREATE TABLE IF NOT EXISTS decision_withdrawal (
  decision_id UUID PRIMARY KEY,
  id UUID NOT NULL UNIQUE,
  why VARCHAR(400) NOT NULL,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  FOREIGN KEY (decision_id) REFERENCES decision (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- Derived: what several things on record mean together. The states keep the moments at which each begins, never "now".
CREATE TABLE IF NOT EXISTS finding (
  subject_id UUID NOT NULL,
  finding VARCHAR(40) CHARACTER SET ascii NOT NULL,
  part VARCHAR(80) CHARACTER SET ascii NOT NULL,
  -- The line that it was worked out of.
  line_id UUID NOT NULL,
  project_id UUID NOT NULL,
  -- Somebody has to decide.
  asks BOOLEAN NOT NULL,
  acceptance VARCHAR(10) CHARACTER SET ascii,
  states JSON NOT NULL,
  evidence JSON NOT NULL,
  choices JSON NOT NULL,
  stood_on JSON NOT NULL,
  decision_id UUID,
  PRIMARY KEY (subject_id, finding, part),
  KEY by_line (line_id),
  KEY by_asking (project_id, asks)
);

-- Lines that are still to be judged again, because so many hung on what was changed.
CREATE TABLE IF NOT EXISTS pending_line (
  line_id UUID PRIMARY KEY,
  tries INT NOT NULL DEFAULT 0
);

-- What stood on record before is judged once, by whichever server comes to it.
INSERT IGNORE INTO pending_line (line_id) SELECT DISTINCT line_id FROM item WHERE line_id IS NOT NULL;
