-- A harbour office. Every table but yard, which all harbours share, says whose row it is in harbour_id.

CREATE TABLE skipper (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  name VARCHAR(80) NOT NULL,
  email VARCHAR(120) NOT NULL UNIQUE,
  phone VARCHAR(40)
);

CREATE TABLE pier (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  name VARCHAR(40) NOT NULL,
  head_berth_id INTEGER
);

CREATE TABLE berth (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  pier_id INTEGER NOT NULL,
  number INTEGER NOT NULL,
  FOREIGN KEY (pier_id) REFERENCES pier (id) ON DELETE CASCADE,
  UNIQUE (pier_id, number)
);

CREATE TABLE berth_service (
  berth_id INTEGER NOT NULL,
  service VARCHAR(20) NOT NULL,
  harbour_id INTEGER NOT NULL,
  price DECIMAL(8,2) NOT NULL,
  PRIMARY KEY (berth_id, service),
  FOREIGN KEY (berth_id) REFERENCES berth (id) ON DELETE CASCADE
);

CREATE TABLE boat (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  skipper_id INTEGER NOT NULL,
  co_skipper_id INTEGER,
  name VARCHAR(60) NOT NULL,
  registration VARCHAR(20) NOT NULL UNIQUE,
  call_sign VARCHAR(10),
  length_m DECIMAL(5,2),
  left_on DATE,
  FOREIGN KEY (skipper_id) REFERENCES skipper (id),
  FOREIGN KEY (co_skipper_id) REFERENCES skipper (id) ON DELETE SET NULL
);

CREATE TABLE mooring (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  boat_id INTEGER NOT NULL,
  berth_id INTEGER NOT NULL,
  arrived_on DATE NOT NULL,
  left_on DATE,
  FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE,
  FOREIGN KEY (berth_id) REFERENCES berth (id)
);

CREATE TABLE power_reading (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  mooring_id INTEGER NOT NULL,
  read_at TIMESTAMP NOT NULL,
  kwh DECIMAL(10,3) NOT NULL,
  FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE
);

CREATE TABLE fee (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  mooring_id INTEGER NOT NULL,
  amount DECIMAL(10,2) NOT NULL,
  due_on DATE NOT NULL,
  paid BOOLEAN,
  FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE
);

CREATE TABLE inspection (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  boat_id INTEGER NOT NULL,
  inspected_on DATE NOT NULL,
  result VARCHAR(20) NOT NULL,
  FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE RESTRICT
);

CREATE TABLE logbook_entry (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  boat_id INTEGER NOT NULL,
  answers INTEGER,
  written_at TIMESTAMP NOT NULL,
  subject VARCHAR(80) NOT NULL,
  FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE,
  FOREIGN KEY (answers) REFERENCES logbook_entry (id) ON DELETE CASCADE
);

CREATE TABLE yard (
  id INTEGER NOT NULL PRIMARY KEY,
  name VARCHAR(40) NOT NULL
);

CREATE TABLE work_order (
  id INTEGER NOT NULL PRIMARY KEY,
  harbour_id INTEGER NOT NULL,
  yard_id INTEGER NOT NULL,
  boat_id INTEGER,
  task VARCHAR(80) NOT NULL,
  cost DECIMAL(10,2),
  FOREIGN KEY (yard_id) REFERENCES yard (id),
  FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE SET NULL
);

-- A contract keeps its versions, and who changed it last: the current one is that with the latest valid_from not after today.
CREATE TABLE berth_contract (
  contract_no INTEGER NOT NULL,
  valid_from DATE NOT NULL,
  harbour_id INTEGER NOT NULL,
  berth_id INTEGER NOT NULL,
  skipper_id INTEGER NOT NULL,
  rent DECIMAL(10,2) NOT NULL,
  valid_until DATE,
  changed_by VARCHAR(60),
  changed_at TIMESTAMP NULL,
  PRIMARY KEY (contract_no, valid_from),
  FOREIGN KEY (berth_id) REFERENCES berth (id),
  FOREIGN KEY (skipper_id) REFERENCES skipper (id)
);

-- What the radio heard. No key, and no foreign key: call signs are those of boats, mostly.
CREATE TABLE radio_message (
  harbour_id INTEGER NOT NULL,
  call_sign VARCHAR(10) NOT NULL,
  sent_at TIMESTAMP NOT NULL,
  words VARCHAR(120) NOT NULL
);

CREATE INDEX berth_pier ON berth (pier_id);
CREATE INDEX boat_skipper ON boat (skipper_id);
CREATE INDEX boat_co_skipper ON boat (co_skipper_id);
CREATE INDEX mooring_boat ON mooring (boat_id);
CREATE INDEX mooring_berth ON mooring (berth_id);
CREATE INDEX power_reading_mooring ON power_reading (mooring_id);
CREATE INDEX fee_mooring ON fee (mooring_id);
CREATE INDEX inspection_boat ON inspection (boat_id);
CREATE INDEX logbook_entry_boat ON logbook_entry (boat_id);
CREATE INDEX logbook_entry_answers ON logbook_entry (answers);
CREATE INDEX work_order_yard ON work_order (yard_id);
CREATE INDEX work_order_boat ON work_order (boat_id);
CREATE INDEX berth_contract_berth ON berth_contract (berth_id);
CREATE INDEX berth_contract_skipper ON berth_contract (skipper_id);
