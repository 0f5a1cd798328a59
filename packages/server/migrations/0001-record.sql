-- People, projects, specifications, mixes, kit; items, what is known of them, tests, evaluations; the change log.
-- Numbers that somebody keyed stay text: 204 and 204.0 are different readings.
-- Originals are only ever added: the running account may not update or delete them (grants.ts says what it may).

CREATE TABLE IF NOT EXISTS person (
  id UUID PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  role VARCHAR(60) NOT NULL
);

-- What somebody may do, and until when; the newest of a name counts.
CREATE TABLE IF NOT EXISTS certificate (
  id UUID PRIMARY KEY,
  person_id UUID NOT NULL,
  what VARCHAR(120) NOT NULL,
  number VARCHAR(60),
  from_day DATE NOT NULL,
  until_day DATE NOT NULL,
  made_by UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  INDEX (until_day),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (made_by) REFERENCES person (id)
);

-- Devices that make things without a network: no two call anything the same.
CREATE TABLE IF NOT EXISTS device (
  id UUID PRIMARY KEY,
  number INT NOT NULL UNIQUE,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS project (
  id UUID PRIMARY KEY,
  code VARCHAR(24) NOT NULL UNIQUE,
  name VARCHAR(200) NOT NULL,
  site VARCHAR(200) NOT NULL,
  unit_system VARCHAR(4) CHARACTER SET ascii NOT NULL,
  practice VARCHAR(24) CHARACTER SET ascii NOT NULL,
  timezone VARCHAR(64) CHARACTER SET ascii NOT NULL,
  created_at DATETIME(3) NOT NULL
);

CREATE TABLE IF NOT EXISTS specification (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  name VARCHAR(200) NOT NULL,
  comparison VARCHAR(10) CHARACTER SET ascii NOT NULL,
  sampled VARCHAR(400),
  -- By whose rules strength is accepted; null: by those of what the project works to.
  school VARCHAR(8) CHARACTER SET ascii,
  -- The one whose place it took, and why.
  replaces_id UUID UNIQUE,
  why VARCHAR(400),
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (replaces_id) REFERENCES specification (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS spec_limit (
  id UUID PRIMARY KEY,
  specification_id UUID NOT NULL,
  position INT NOT NULL,
  property VARCHAR(40) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  lower_text VARCHAR(24) CHARACTER SET ascii,
  upper_text VARCHAR(24) CHARACTER SET ascii,
  target_text VARCHAR(24) CHARACTER SET ascii,
  minus_text VARCHAR(24) CHARACTER SET ascii,
  plus_text VARCHAR(24) CHARACTER SET ascii,
  -- Of a strength the age at which it holds, d; null: 28.
  at_days SMALLINT,
  source VARCHAR(200) NOT NULL,
  on_fail VARCHAR(400),
  FOREIGN KEY (specification_id) REFERENCES specification (id)
);

CREATE TABLE IF NOT EXISTS mix (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  code VARCHAR(24) NOT NULL,
  name VARCHAR(200) NOT NULL,
  UNIQUE (project_id, code),
  FOREIGN KEY (project_id) REFERENCES project (id)
);

CREATE TABLE IF NOT EXISTS mix_revision (
  id UUID PRIMARY KEY,
  mix_id UUID NOT NULL,
  number INT NOT NULL,
  effective_from DATETIME(3) NOT NULL,
  largest_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  nominal_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  size_unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  air_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  correction_text VARCHAR(24) CHARACTER SET ascii,
  aggregate VARCHAR(10) CHARACTER SET ascii NOT NULL,
  why VARCHAR(400),
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  UNIQUE (mix_id, number),
  FOREIGN KEY (mix_id) REFERENCES mix (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- What concrete that was batched by it must meet.
CREATE TABLE IF NOT EXISTS revision_specification (
  revision_id UUID NOT NULL,
  specification_id UUID NOT NULL,
  position INT NOT NULL,
  PRIMARY KEY (revision_id, specification_id),
  KEY (specification_id),
  FOREIGN KEY (revision_id) REFERENCES mix_revision (id),
  FOREIGN KEY (specification_id) REFERENCES specification (id)
);

CREATE TABLE IF NOT EXISTS ingredient (
  revision_id UUID NOT NULL,
  position INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  role VARCHAR(20) CHARACTER SET ascii NOT NULL,
  mass_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  mass_unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  -- Keyed, or as the newest test of its source found it when the revision was made.
  sg_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  source_id UUID,
  sg_test_id UUID,
  PRIMARY KEY (revision_id, position),
  KEY (source_id),
  FOREIGN KEY (revision_id) REFERENCES mix_revision (id)
);

-- A lab's own figures of a variant, from a moment on; the newest by then counts.
CREATE TABLE IF NOT EXISTS own_copy (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  method VARCHAR(40) CHARACTER SET ascii NOT NULL,
  variant VARCHAR(40) CHARACTER SET ascii NOT NULL,
  from_at DATETIME(3) NOT NULL,
  why VARCHAR(400) NOT NULL,
  figures JSON NOT NULL,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (project_id, method, variant, from_at),
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS equipment (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  UNIQUE (project_id, name),
  FOREIGN KEY (project_id) REFERENCES project (id)
);

-- What the maker gives: nominal size, dial division. `item` is the name by which methods ask for it.
CREATE TABLE IF NOT EXISTS equipment_value (
  equipment_id UUID NOT NULL,
  item VARCHAR(40) CHARACTER SET ascii NOT NULL,
  value_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (equipment_id, item),
  FOREIGN KEY (equipment_id) REFERENCES equipment (id)
);

CREATE TABLE IF NOT EXISTS calibration (
  id UUID PRIMARY KEY,
  equipment_id UUID NOT NULL,
  calibrated_on DATE NOT NULL,
  -- As long as the lab lets it hold; without it, as long as the method does.
  due_on DATE,
  -- Why it is kept although a reading of it is unlikely.
  reason VARCHAR(400),
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (equipment_id, calibrated_on),
  FOREIGN KEY (equipment_id) REFERENCES equipment (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS calibration_value (
  calibration_id UUID NOT NULL,
  item VARCHAR(40) CHARACTER SET ascii NOT NULL,
  value_text VARCHAR(24) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  -- What it was worked out from: variant, system and what was read.
  worked JSON,
  PRIMARY KEY (calibration_id, item),
  FOREIGN KEY (calibration_id) REFERENCES calibration (id)
);

-- An instrument was found wrong: what was tested with it since is in question, and until it is calibrated it is out of use.
CREATE TABLE IF NOT EXISTS kit_finding (
  id UUID PRIMARY KEY,
  equipment_id UUID NOT NULL,
  since_at DATETIME(3) NOT NULL,
  found_at DATETIME(3) NOT NULL,
  -- Its day where the project is.
  found_on DATE NOT NULL,
  why VARCHAR(400) NOT NULL,
  person_id UUID NOT NULL,
  KEY (equipment_id, found_at),
  FOREIGN KEY (equipment_id) REFERENCES equipment (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- Everything that is tested or sampled, and the tree it lies in. What follows `void` is derived from its entries
-- and from what was found: a command makes it again.
CREATE TABLE IF NOT EXISTS item (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
  parent_id UUID,
  -- Numbers run in the project, or in the parent.
  scope_id UUID NOT NULL,
  number INT NOT NULL,
  code VARCHAR(130) NOT NULL,
  -- Of what it is: a mix or another item, its source; and the revision of the mix that was in force.
  subject_id UUID,
  revision_id UUID,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  -- Derived.
  name VARCHAR(120),
  day DATE NOT NULL,
  at DATETIME(3) NOT NULL,
  facts JSON NOT NULL,
  voided BOOLEAN NOT NULL DEFAULT FALSE,
  children INT NOT NULL DEFAULT 0,
  samples INT NOT NULL DEFAULT 0,
  outs INT NOT NULL DEFAULT 0,
  worst VARCHAR(10) CHARACTER SET ascii,
  UNIQUE (scope_id, kind, number),
  KEY (project_id, kind, day, number),
  KEY (project_id, kind, code),
  KEY (project_id, kind, name),
  KEY (parent_id, number),
  KEY (subject_id, at),
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (parent_id) REFERENCES item (id),
  FOREIGN KEY (revision_id) REFERENCES mix_revision (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- What items wait for: derived from their facts and tests by a command.
CREATE TABLE IF NOT EXISTS due (
  item_id UUID NOT NULL,
  due VARCHAR(40) CHARACTER SET ascii NOT NULL,
  project_id UUID NOT NULL,
  -- Of fresh concrete: over after hours, done or not.
  brief BOOLEAN NOT NULL,
  opens_at DATETIME(3) NOT NULL,
  ends_at DATETIME(3),
  -- When it ends, or opens where nothing ends it.
  by_at DATETIME(3) NOT NULL,
  done_at DATETIME(3),
  PRIMARY KEY (item_id, due),
  KEY (project_id, brief, done_at, by_at),
  KEY done (project_id, done_at),
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (item_id) REFERENCES item (id)
);

-- When something that is due is to be done, and by whom; the newest counts.
CREATE TABLE IF NOT EXISTS planned (
  id UUID NOT NULL,
  item_id UUID NOT NULL,
  due VARCHAR(40) CHARACTER SET ascii NOT NULL,
  at DATETIME(3),
  who_id UUID,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  PRIMARY KEY (item_id, due, made_at, id),
  FOREIGN KEY (item_id) REFERENCES item (id),
  FOREIGN KEY (who_id) REFERENCES person (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- When somebody is in the laboratory: from a day on, or for some days; of what is made for a day the newest counts.
CREATE TABLE IF NOT EXISTS hours (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  from_day DATE NOT NULL,
  to_day DATE,
  week JSON NOT NULL,
  why VARCHAR(200),
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (project_id, from_day),
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- What an item of no mix must meet from a moment on; the newest by then counts.
CREATE TABLE IF NOT EXISTS meeting (
  id UUID PRIMARY KEY,
  item_id UUID NOT NULL,
  from_at DATETIME(3) NOT NULL,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (item_id, from_at),
  FOREIGN KEY (item_id) REFERENCES item (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS meeting_specification (
  meeting_id UUID NOT NULL,
  specification_id UUID NOT NULL,
  position INT NOT NULL,
  PRIMARY KEY (meeting_id, specification_id),
  KEY (specification_id),
  FOREIGN KEY (meeting_id) REFERENCES meeting (id),
  FOREIGN KEY (specification_id) REFERENCES specification (id)
);

-- The next number of a kind in its scope.
CREATE TABLE IF NOT EXISTS counter (
  scope_id UUID NOT NULL,
  kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
  last INT NOT NULL,
  PRIMARY KEY (scope_id, kind)
);

CREATE TABLE IF NOT EXISTS test (
  id UUID PRIMARY KEY,
  item_id UUID NOT NULL,
  method VARCHAR(40) CHARACTER SET ascii NOT NULL,
  variant VARCHAR(40) CHARACTER SET ascii NOT NULL,
  variant_reason VARCHAR(400),
  unit_system VARCHAR(4) CHARACTER SET ascii NOT NULL,
  started_at DATETIME(3) NOT NULL,
  person_id UUID NOT NULL,
  equipment_id UUID,
  -- The calibration that was in force and known when the test was started: a later one moves nothing.
  calibration_id UUID,
  -- The lab's own figures that were in force then.
  own_copy_id UUID,
  -- Why equipment was used although it is past its calibration, or was found wrong.
  kit_reason VARCHAR(400),
  retest_of UUID UNIQUE,
  KEY (item_id, started_at),
  FOREIGN KEY (item_id) REFERENCES item (id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (equipment_id) REFERENCES equipment (id),
  FOREIGN KEY (calibration_id) REFERENCES calibration (id),
  FOREIGN KEY (own_copy_id) REFERENCES own_copy (id),
  FOREIGN KEY (retest_of) REFERENCES test (id)
);

-- What a test found of a source is what counts from a moment on; of those said by then the one of the latest moment.
CREATE TABLE IF NOT EXISTS acceptance (
  id UUID PRIMARY KEY,
  item_id UUID NOT NULL,
  test_id UUID NOT NULL,
  from_at DATETIME(3) NOT NULL,
  why VARCHAR(400),
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (item_id, from_at),
  FOREIGN KEY (item_id) REFERENCES item (id),
  FOREIGN KEY (test_id) REFERENCES test (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- Somebody looked at what a mix stands on, beside what a test found of its source, and left it as it is.
CREATE TABLE IF NOT EXISTS mix_look (
  id UUID PRIMARY KEY,
  mix_id UUID NOT NULL,
  test_id UUID NOT NULL,
  why VARCHAR(400) NOT NULL,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (mix_id),
  FOREIGN KEY (mix_id) REFERENCES mix (id),
  FOREIGN KEY (test_id) REFERENCES test (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- All that a test was made with, each with its calibration of then: the one that enters its result, and others beside it.
CREATE TABLE IF NOT EXISTS test_kit (
  test_id UUID NOT NULL,
  equipment_id UUID NOT NULL,
  calibration_id UUID,
  -- When the test was started.
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (test_id, equipment_id),
  KEY by_kit (equipment_id, at, test_id),
  FOREIGN KEY (test_id) REFERENCES test (id),
  FOREIGN KEY (equipment_id) REFERENCES equipment (id),
  FOREIGN KEY (calibration_id) REFERENCES calibration (id)
);

-- What was keyed: readings of a test, facts of an item. A path names a field, rows by their own ids:
-- `full`, `sieves.<row>.retained`. `turn` counts what was kept at a path: two people who key the same one at
-- once collide here. Without a text it is struck out.
CREATE TABLE IF NOT EXISTS entry (
  owner_id UUID NOT NULL,
  path VARCHAR(120) CHARACTER SET ascii NOT NULL,
  turn SMALLINT NOT NULL,
  id UUID NOT NULL UNIQUE,
  value_text VARCHAR(1000),
  unit VARCHAR(10) CHARACTER SET ascii,
  person_id UUID NOT NULL,
  read_at DATETIME(3) NOT NULL,
  received_at DATETIME(3) NOT NULL,
  device VARCHAR(20) CHARACTER SET ascii NOT NULL,
  reason VARCHAR(400),
  PRIMARY KEY (owner_id, path, turn),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

-- One for each time that a test was worked out. `frozen` is all that it was worked out from, and `cause` why
-- it was worked out again, where nobody kept a reading.
CREATE TABLE IF NOT EXISTS evaluation (
  test_id UUID NOT NULL,
  turn SMALLINT NOT NULL,
  core CHAR(16) CHARACTER SET ascii NOT NULL,
  validity VARCHAR(10) CHARACTER SET ascii NOT NULL,
  frozen JSON NOT NULL,
  cause VARCHAR(40) CHARACTER SET ascii,
  cause_id UUID,
  computed_at DATETIME(3) NOT NULL,
  PRIMARY KEY (test_id, turn),
  FOREIGN KEY (test_id) REFERENCES test (id)
);

CREATE TABLE IF NOT EXISTS result (
  test_id UUID NOT NULL,
  turn SMALLINT NOT NULL,
  result VARCHAR(40) CHARACTER SET ascii NOT NULL,
  state VARCHAR(10) CHARACTER SET ascii NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  exact_text TEXT CHARACTER SET ascii,
  reported_text VARCHAR(60) CHARACTER SET ascii,
  verdict VARCHAR(10) CHARACTER SET ascii,
  -- The limit that decided, in its unit, and what met it.
  lower_text VARCHAR(40) CHARACTER SET ascii,
  upper_text VARCHAR(40) CHARACTER SET ascii,
  compared_text VARCHAR(60) CHARACTER SET ascii,
  limit_unit VARCHAR(10) CHARACTER SET ascii,
  PRIMARY KEY (test_id, turn, result),
  FOREIGN KEY (test_id, turn) REFERENCES evaluation (test_id, turn)
);

-- Pictures and papers of an item, and what they hold: pictures are drawn anew, without where and by what they were taken.
CREATE TABLE IF NOT EXISTS file (
  id UUID PRIMARY KEY,
  item_id UUID NOT NULL,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  name VARCHAR(200) NOT NULL,
  type VARCHAR(40) CHARACTER SET ascii NOT NULL,
  bytes INT NOT NULL,
  width INT,
  height INT,
  KEY (item_id, made_at),
  FOREIGN KEY (item_id) REFERENCES item (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS file_content (
  file_id UUID PRIMARY KEY,
  content MEDIUMBLOB NOT NULL,
  preview MEDIUMBLOB,
  FOREIGN KEY (file_id) REFERENCES file (id)
);

-- Reports as they were issued: they never change; one that is made again takes the place of the one before.
CREATE TABLE IF NOT EXISTS report (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  number INT NOT NULL,
  title VARCHAR(200) NOT NULL,
  scope JSON NOT NULL,
  -- The scope as one text: of the same one a report is looked for.
  scope_key VARCHAR(120) CHARACTER SET ascii NOT NULL,
  replaces_id UUID UNIQUE,
  person_id UUID NOT NULL,
  made_at DATETIME(3) NOT NULL,
  client VARCHAR(200),
  why VARCHAR(400),
  tests INT NOT NULL,
  UNIQUE (project_id, number),
  KEY (project_id, scope_key, number),
  FOREIGN KEY (project_id) REFERENCES project (id),
  FOREIGN KEY (replaces_id) REFERENCES report (id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS report_paper (
  report_id UUID PRIMARY KEY,
  pdf MEDIUMBLOB NOT NULL,
  FOREIGN KEY (report_id) REFERENCES report (id)
);

-- Derived: every test, as its newest evaluation has it, a line each; `main` is the result that stands for it. An index for
-- each way in which people look: all of them end in the moment, so that a page is read off.
CREATE TABLE IF NOT EXISTS ledger (
  test_id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  item_id UUID NOT NULL,
  subject_id UUID,
  method VARCHAR(40) CHARACTER SET ascii NOT NULL,
  at DATETIME(3) NOT NULL,
  person_id UUID NOT NULL,
  turn SMALLINT,
  main VARCHAR(40) CHARACTER SET ascii,
  state VARCHAR(10) CHARACTER SET ascii NOT NULL,
  marked BOOLEAN NOT NULL,
  KEY by_time (project_id, at, test_id),
  KEY by_method (project_id, method, at, test_id),
  KEY by_state (project_id, state, at, test_id),
  KEY by_mark (project_id, marked, at, test_id),
  KEY by_person (project_id, person_id, at, test_id),
  KEY by_subject (subject_id, at, test_id),
  KEY by_item (item_id, at, test_id)
);

-- Ways of looking at the ledger that people keep for themselves.
CREATE TABLE IF NOT EXISTS ledger_view (
  id UUID PRIMARY KEY,
  project_id UUID NOT NULL,
  person_id UUID NOT NULL,
  name VARCHAR(200) NOT NULL,
  query JSON NOT NULL,
  columns_json JSON NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (project_id, person_id)
);

-- Derived: the results that stand now, for lists and for the history of a mix or a source.
CREATE TABLE IF NOT EXISTS standing (
  item_id UUID NOT NULL,
  test_id UUID NOT NULL,
  result VARCHAR(40) CHARACTER SET ascii NOT NULL,
  subject_id UUID,
  property VARCHAR(40) CHARACTER SET ascii NOT NULL,
  method VARCHAR(40) CHARACTER SET ascii NOT NULL,
  at DATETIME(3) NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  reported_text VARCHAR(60) CHARACTER SET ascii,
  validity VARCHAR(10) CHARACTER SET ascii NOT NULL,
  state VARCHAR(10) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (item_id, test_id, result),
  KEY (item_id, at),
  KEY (subject_id, property, at)
);

-- Strength tests: what broke of a set at an age, as it stands now. `specimens` says of each what it gave and what stands on it.
CREATE TABLE IF NOT EXISTS strength (
  item_id UUID NOT NULL,
  property VARCHAR(40) CHARACTER SET ascii NOT NULL,
  age_days DECIMAL(8, 3) NOT NULL,
  subject_id UUID,
  cast_at DATETIME(3) NOT NULL,
  broken_at DATETIME(3) NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  mean_text VARCHAR(120) CHARACTER SET ascii,
  reported_text VARCHAR(60) CHARACTER SET ascii,
  count INT NOT NULL,
  planned INT NOT NULL,
  range_text VARCHAR(60) CHARACTER SET ascii,
  most_text VARCHAR(24) CHARACTER SET ascii,
  apart BOOLEAN NOT NULL,
  -- Why it is not for acceptance.
  not_for VARCHAR(10) CHARACTER SET ascii,
  specimens JSON NOT NULL,
  PRIMARY KEY (item_id, property, age_days),
  KEY (subject_id, property, age_days, cast_at)
);

-- Derived: what the tests that stand give to others. With a subject: to later tests of the same mix or source.
CREATE TABLE IF NOT EXISTS gift (
  item_id UUID NOT NULL,
  source VARCHAR(24) CHARACTER SET ascii NOT NULL,
  test_id UUID NOT NULL,
  subject_id UUID,
  method VARCHAR(40) CHARACTER SET ascii NOT NULL,
  at DATETIME(3) NOT NULL,
  value_text VARCHAR(60) NOT NULL,
  unit VARCHAR(10) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (item_id, source, test_id),
  KEY (subject_id, source, at),
  KEY (test_id)
);

-- Derived: what the newest evaluation of a test used. A change of that asks for it again.
CREATE TABLE IF NOT EXISTS stood_on (
  test_id UUID NOT NULL,
  used_id UUID NOT NULL,
  PRIMARY KEY (test_id, used_id),
  KEY (used_id)
);

-- Tests that are still to be worked out again, because so much stood on what was changed; `batch` is how much it was.
CREATE TABLE IF NOT EXISTS pending (
  test_id UUID PRIMARY KEY,
  item_id UUID NOT NULL,
  used_id UUID NOT NULL,
  -- The item that it is, or that it is of.
  used_item_id UUID NOT NULL,
  cause VARCHAR(40) CHARACTER SET ascii NOT NULL,
  cause_id UUID NOT NULL,
  person_id UUID NOT NULL,
  batch INT NOT NULL,
  tries INT NOT NULL DEFAULT 0,
  KEY (item_id),
  KEY (used_item_id)
);

-- Every transaction, in no order that can be counted on: a number is given before its commit. `line` are the
-- ids of the item and of all that it lies in, the top first.
CREATE TABLE IF NOT EXISTS change_log (
  seq BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  at DATETIME(3) NOT NULL,
  project_id UUID,
  item_id UUID,
  line VARCHAR(400) CHARACTER SET ascii,
  kind VARCHAR(24) CHARACTER SET ascii NOT NULL,
  entity_id UUID NOT NULL,
  person_id UUID,
  KEY (at),
  KEY (item_id, seq)
);

-- Every write, by its client-made id: the same one again changes nothing.
CREATE TABLE IF NOT EXISTS write_log (
  id UUID PRIMARY KEY,
  kind VARCHAR(40) CHARACTER SET ascii NOT NULL,
  target_id UUID,
  digest CHAR(64) CHARACTER SET ascii NOT NULL,
  person_id UUID,
  written_at DATETIME(3) NOT NULL DEFAULT (UTC_TIMESTAMP(3)),
  KEY (written_at)
);
