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
