-- People, projects, mixes, specifications, kit, pours, loads, samples, tests, readings, results.
-- Numbers that somebody keyed stay text: 204 and 204.0 are different readings.
-- Readings, evaluations, results and verdicts are only ever added: the running account may not update or delete.

CREATE TABLE IF NOT EXISTS person (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  role VARCHAR(60) NOT NULL
);

CREATE TABLE IF NOT EXISTS project (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  code VARCHAR(24) NOT NULL UNIQUE,
  name VARCHAR(200) NOT NULL,
  site VARCHAR(200) NOT NULL,
  unit_system VARCHAR(4) CHARACTER SET ascii NOT NULL,
  practice VARCHAR(24) CHARACTER SET ascii NOT NULL,
  timezone VARCHAR(64) CHARACTER SET ascii NOT NULL,
  created_at DATETIME(3) NOT NULL
);

CREATE TABLE IF NOT EXISTS specification (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  project_id CHAR(36) CHARACTER SET ascii NOT NULL,
  name VARCHAR(200) NOT NULL,
  school VARCHAR(10) CHARACTER SET ascii NOT NULL,
  FOREIGN KEY (project_id) REFERENCES project (id)
);

CREATE TABLE IF NOT EXISTS spec_limit (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  specification_id CHAR(36) CHARACTER SET ascii NOT NULL,
  position INT NOT NULL,
  property VARCHAR(40) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  lower_text VARCHAR(24) CHARACTER SET ascii,
  upper_text VARCHAR(24) CHARACTER SET ascii,
  target_text VARCHAR(24) CHARACTER SET ascii,
  minus_text VARCHAR(24) CHARACTER SET ascii,
  plus_text VARCHAR(24) CHARACTER SET ascii,
  source VARCHAR(200) NOT NULL,
  on_fail VARCHAR(400),
  FOREIGN KEY (specification_id) REFERENCES specification (id)
);

CREATE TABLE IF NOT EXISTS mix (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  project_id CHAR(36) CHARACTER SET ascii NOT NULL,
  code VARCHAR(24) NOT NULL,
  name VARCHAR(200) NOT NULL,
  UNIQUE (project_id, code),
  FOREIGN KEY (project_id) REFERENCES project (id)
);

CREATE TABLE IF NOT EXISTS mix_specification (
  mix_id CHAR(36) CHARACTER SET ascii NOT NULL,
  specification_id CHAR(36) CHARACTER SET ascii NOT NULL,
  position INT NOT NULL,
  PRIMARY KEY (mix_id, specification_id),
  FOREIGN KEY (mix_id) REFERENCES mix (id),
  FOREIGN KEY (specification_id) REFERENCES specification (id)
);

CREATE TABLE IF NOT EXISTS mix_revision (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  mix_id CHAR(36) CHARACTER SET ascii NOT NULL,
  number INT NOT NULL,
  effective_from DATETIME(3) NOT NULL,
  largest_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  nominal_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  size_unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  air_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  correction_text VARCHAR(24) CHARACTER SET ascii,
  UNIQUE (mix_id, number),
  FOREIGN KEY (mix_id) REFERENCES mix (id)
);

CREATE TABLE IF NOT EXISTS ingredient (
  revision_id CHAR(36) CHARACTER SET ascii NOT NULL,
  position INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  role VARCHAR(20) CHARACTER SET ascii NOT NULL,
  mass_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  mass_unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  sg_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (revision_id, position),
  FOREIGN KEY (revision_id) REFERENCES mix_revision (id)
);

CREATE TABLE IF NOT EXISTS equipment (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  project_id CHAR(36) CHARACTER SET ascii NOT NULL,
  kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  UNIQUE (project_id, name),
  FOREIGN KEY (project_id) REFERENCES project (id)
);

-- What the maker gives: nominal size, dial division. `item` is the name by which methods ask for it.
CREATE TABLE IF NOT EXISTS equipment_value (
  equipment_id CHAR(36) CHARACTER SET ascii NOT NULL,
  item VARCHAR(40) CHARACTER SET ascii NOT NULL,
  value_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (equipment_id, item),
  FOREIGN KEY (equipment_id) REFERENCES equipment (id)
);

CREATE TABLE IF NOT EXISTS calibration (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  equipment_id CHAR(36) CHARACTER SET ascii NOT NULL,
  calibrated_on DATE NOT NULL,
  person_id CHAR(36) CHARACTER SET ascii NOT NULL,
  FOREIGN KEY (equipment_id) REFERENCES equipment (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS calibration_value (
  calibration_id CHAR(36) CHARACTER SET ascii NOT NULL,
  item VARCHAR(40) CHARACTER SET ascii NOT NULL,
  value_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (calibration_id, item),
  FOREIGN KEY (calibration_id) REFERENCES calibration (id)
);

CREATE TABLE IF NOT EXISTS pour (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  project_id CHAR(36) CHARACTER SET ascii NOT NULL,
  mix_id CHAR(36) CHARACTER SET ascii NOT NULL,
  name VARCHAR(200) NOT NULL,
  element VARCHAR(200) NOT NULL,
  poured_on DATE NOT NULL,
  planned_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  planned_unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  KEY (project_id, poured_on),
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (mix_id) REFERENCES mix (id)
);

CREATE TABLE IF NOT EXISTS truck_load (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  pour_id CHAR(36) CHARACTER SET ascii NOT NULL,
  revision_id CHAR(36) CHARACTER SET ascii NOT NULL,
  number INT NOT NULL,
  ticket VARCHAR(40) NOT NULL,
  truck VARCHAR(40) NOT NULL,
  batched_at DATETIME(3) NOT NULL,
  design_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  design_unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  UNIQUE (pour_id, number),
  FOREIGN KEY (pour_id) REFERENCES pour (id),
  FOREIGN KEY (revision_id) REFERENCES mix_revision (id)
);

CREATE TABLE IF NOT EXISTS ticket_material (
  load_id CHAR(36) CHARACTER SET ascii NOT NULL,
  position INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  role VARCHAR(20) CHARACTER SET ascii NOT NULL,
  target_text VARCHAR(24) CHARACTER SET ascii,
  actual_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (load_id, position),
  FOREIGN KEY (load_id) REFERENCES truck_load (id)
);

CREATE TABLE IF NOT EXISTS water_addition (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  load_id CHAR(36) CHARACTER SET ascii NOT NULL,
  mass_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  mass_unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  added_at DATETIME(3) NOT NULL,
  person_id CHAR(36) CHARACTER SET ascii NOT NULL,
  FOREIGN KEY (load_id) REFERENCES truck_load (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS sample (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  project_id CHAR(36) CHARACTER SET ascii NOT NULL,
  load_id CHAR(36) CHARACTER SET ascii NOT NULL,
  number INT NOT NULL,
  person_id CHAR(36) CHARACTER SET ascii NOT NULL,
  created_at DATETIME(3) NOT NULL,
  UNIQUE (project_id, number),
  KEY (load_id),
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (load_id) REFERENCES truck_load (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- portion, finished, molding, discharged: what starts and stops the clocks.
CREATE TABLE IF NOT EXISTS sample_event (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  sample_id CHAR(36) CHARACTER SET ascii NOT NULL,
  kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
  happened_at DATETIME(3) NOT NULL,
  part VARCHAR(20) CHARACTER SET ascii,
  person_id CHAR(36) CHARACTER SET ascii NOT NULL,
  KEY (sample_id, happened_at),
  FOREIGN KEY (sample_id) REFERENCES sample (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS test (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  sample_id CHAR(36) CHARACTER SET ascii NOT NULL,
  method VARCHAR(40) CHARACTER SET ascii NOT NULL,
  variant VARCHAR(40) CHARACTER SET ascii NOT NULL,
  variant_reason VARCHAR(400),
  unit_system VARCHAR(4) CHARACTER SET ascii NOT NULL,
  started_at DATETIME(3) NOT NULL,
  person_id CHAR(36) CHARACTER SET ascii NOT NULL,
  equipment_id CHAR(36) CHARACTER SET ascii,
  retest_of CHAR(36) CHARACTER SET ascii UNIQUE,
  KEY (sample_id, started_at),
  FOREIGN KEY (sample_id) REFERENCES sample (id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (equipment_id) REFERENCES equipment (id),
  FOREIGN KEY (retest_of) REFERENCES test (id)
);

-- `turn` counts the readings of one field: two people who key the same field at once collide here.
CREATE TABLE IF NOT EXISTS reading (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  test_id CHAR(36) CHARACTER SET ascii NOT NULL,
  field VARCHAR(60) CHARACTER SET ascii NOT NULL,
  turn INT NOT NULL,
  value_text VARCHAR(40) NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii,
  person_id CHAR(36) CHARACTER SET ascii NOT NULL,
  read_at DATETIME(3) NOT NULL,
  received_at DATETIME(3) NOT NULL,
  device VARCHAR(20) CHARACTER SET ascii NOT NULL,
  supersedes CHAR(36) CHARACTER SET ascii,
  reason VARCHAR(400),
  UNIQUE (test_id, field, turn),
  FOREIGN KEY (test_id) REFERENCES test (id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (supersedes) REFERENCES reading (id)
);

-- One evaluation a keep. `inputs` and `params` are frozen, so that it can be computed again.
CREATE TABLE IF NOT EXISTS evaluation (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  test_id CHAR(36) CHARACTER SET ascii NOT NULL,
  turn INT NOT NULL,
  core_version VARCHAR(20) CHARACTER SET ascii NOT NULL,
  validity VARCHAR(10) CHARACTER SET ascii NOT NULL,
  inputs JSON NOT NULL,
  evaluation JSON NOT NULL,
  judged JSON NOT NULL,
  computed_at DATETIME(3) NOT NULL,
  UNIQUE (test_id, turn),
  FOREIGN KEY (test_id) REFERENCES test (id)
);

CREATE TABLE IF NOT EXISTS result (
  evaluation_id BIGINT UNSIGNED NOT NULL,
  result VARCHAR(40) CHARACTER SET ascii NOT NULL,
  state VARCHAR(10) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  exact_text TEXT CHARACTER SET ascii,
  unrounded_text VARCHAR(60) CHARACTER SET ascii,
  reported_text VARCHAR(60) CHARACTER SET ascii,
  PRIMARY KEY (evaluation_id, result),
  FOREIGN KEY (evaluation_id) REFERENCES evaluation (id)
);

CREATE TABLE IF NOT EXISTS verdict (
  evaluation_id BIGINT UNSIGNED NOT NULL,
  result VARCHAR(40) CHARACTER SET ascii NOT NULL,
  specification_id CHAR(36) CHARACTER SET ascii NOT NULL,
  state VARCHAR(10) CHARACTER SET ascii NOT NULL,
  limit_id CHAR(36) CHARACTER SET ascii,
  compared_text VARCHAR(60) CHARACTER SET ascii,
  PRIMARY KEY (evaluation_id, result, specification_id),
  FOREIGN KEY (evaluation_id) REFERENCES evaluation (id),
  FOREIGN KEY (specification_id) REFERENCES specification (id)
);

-- Every write, by its client-made id: the same one again changes nothing.
CREATE TABLE IF NOT EXISTS write_log (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  kind VARCHAR(40) CHARACTER SET ascii NOT NULL,
  digest CHAR(64) CHARACTER SET ascii NOT NULL,
  written_at DATETIME(3) NOT NULL
);
