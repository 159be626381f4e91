-- Made up throughout.

INSERT INTO skipper VALUES
  (1, 7, 'Mira Holm', 'mira@harbour.example', '555-0101'),
  (2, 7, 'Tavi Orn', 'tavi@harbour.example', NULL),
  (3, 7, 'Juna Velde', 'juna@harbour.example', '555-0103'),
  (4, 7, 'Orsin Pell', 'orsin@harbour.example', '555-0104'),
  (5, 8, 'Lio Brack', 'lio@harbour.example', NULL),
  (6, 8, 'Edda Quill', 'edda@harbour.example', '555-0106');

INSERT INTO pier VALUES (1, 7, 'North pier', NULL), (2, 7, 'Lamp pier', NULL), (3, 8, 'Old mole', NULL);

INSERT INTO berth VALUES
  (101, 7, 1, 1), (102, 7, 1, 2), (103, 7, 1, 3), (104, 7, 1, 4),
  (201, 7, 2, 1), (202, 7, 2, 2), (203, 7, 2, 3),
  (301, 8, 3, 1), (302, 8, 3, 2);

UPDATE pier SET head_berth_id = 104 WHERE id = 1;
UPDATE pier SET head_berth_id = 203 WHERE id = 2;

INSERT INTO berth_service VALUES
  (101, 'water', 7, 4.00), (101, 'power', 7, 9.50), (102, 'water', 7, 4.00),
  (201, 'water', 7, 4.50), (201, 'crane', 7, 60.00), (301, 'power', 8, 11.00);

INSERT INTO boat VALUES
  (11, 7, 1, NULL, 'Avocet', 'HV-118', 'VQ11', 9.80, NULL),
  (12, 7, 1, 2, 'Teal', 'HV-121', 'VQ12', 7.25, NULL),
  (13, 7, 2, NULL, 'Gannet', 'HV-133', 'VQ13', 12.10, NULL),
  (14, 7, 2, 3, 'Curlew', 'HV-140', 'VQ14', 10.40, NULL),
  (15, 7, 3, NULL, 'Plover', 'HV-157', NULL, 6.90, '2025-10-02'),
  (16, 7, 3, NULL, 'Dunlin', 'HV-162', 'VQ16', 8.15, '2024-09-30'),
  (17, 7, 3, 1, 'Osprey', 'HV-204', 'VQ17', 11.35, NULL),
  (18, 8, 5, 6, 'Heron', 'OM-018', 'VQ18', 14.00, NULL);

INSERT INTO mooring VALUES
  (501, 7, 11, 101, '2026-04-02', NULL),
  (502, 7, 12, 102, '2026-05-11', '2026-05-19'),
  (503, 7, 14, 103, '2026-03-28', NULL),
  (504, 7, 15, 201, '2025-06-01', '2025-10-02'),
  (505, 7, 16, 202, '2024-05-14', '2024-09-30'),
  (506, 7, 17, 203, '2025-05-03', '2025-09-27'),
  (507, 7, 17, 104, '2026-05-01', NULL),
  (508, 8, 18, 301, '2026-02-10', NULL);

INSERT INTO power_reading VALUES
  (9001, 7, 501, '2026-05-01 08:00:00', 12.500),
  (9002, 7, 501, '2026-06-01 08:00:00', 31.125),
  (9003, 7, 503, '2026-05-01 08:10:00', 7.250),
  (9004, 7, 504, '2025-07-01 08:00:00', 22.000),
  (9005, 7, 506, '2025-06-01 08:20:00', 18.400),
  (9006, 7, 506, '2025-07-01 08:20:00', 41.900),
  (9007, 7, 506, '2025-08-01 08:20:00', 66.050),
  (9008, 7, 507, '2026-06-01 08:25:00', 9.775),
  (9009, 7, 507, '2026-07-01 08:25:00', 27.300),
  (9010, 8, 508, '2026-03-01 09:00:00', 55.000);

INSERT INTO fee VALUES
  (701, 7, 501, 240.00, '2026-05-31', TRUE),
  (702, 7, 502, 48.00, '2026-05-31', TRUE),
  (703, 7, 503, 255.00, '2026-05-31', NULL),
  (704, 7, 504, 410.00, '2025-10-31', TRUE),
  (705, 7, 505, 395.50, '2024-10-31', FALSE),
  (706, 7, 506, 430.00, '2025-10-31', TRUE),
  (707, 7, 507, 120.00, '2026-05-31', TRUE),
  (708, 7, 507, 120.00, '2026-06-30', FALSE),
  (709, 8, 508, 300.00, '2026-03-31', TRUE);

INSERT INTO inspection VALUES
  (31, 7, 14, '2025-04-16', 'passed'),
  (32, 7, 14, '2026-04-20', 'passed'),
  (33, 7, 11, '2026-05-07', 'to repeat');

INSERT INTO logbook_entry VALUES
  (61, 7, 17, NULL, '2026-05-01 17:40:00', 'Arrived, bow line worn'),
  (62, 7, 17, 61, '2026-05-02 09:05:00', 'New bow line ordered'),
  (63, 7, 17, 62, '2026-05-06 11:30:00', 'Line fitted'),
  (64, 7, 17, 61, '2026-05-02 10:15:00', 'Fender lent until then'),
  (65, 7, 12, NULL, '2026-05-11 20:00:00', 'Arrived after dark'),
  (66, 7, 14, NULL, '2026-03-28 12:00:00', 'Arrived under tow'),
  (67, 7, 14, 66, '2026-03-29 08:30:00', 'Engine seen by the yard');

INSERT INTO yard VALUES (1, 'Slip & Sons'), (2, 'Tidewater Yard'), (3, 'The Keel House');

INSERT INTO work_order VALUES
  (81, 7, 1, 17, 'Polish the hull', 310.00),
  (82, 7, 1, 14, 'Mend the engine', 1240.00),
  (83, 7, 2, 17, 'Check the mast', 95.00),
  (84, 8, 3, 18, 'Paint below the water line', 780.00);

INSERT INTO berth_contract VALUES
  (1, '2024-01-01', 7, 101, 1, 900.00, '2024-12-31', 'Jonas Reik', '2026-01-05 09:10:00'),
  (1, '2025-01-01', 7, 101, 1, 940.00, '2025-12-31', 'Jonas Reik', '2026-01-05 09:10:00'),
  (1, '2026-01-01', 7, 101, 1, 985.00, NULL, 'Jonas Reik', '2026-01-05 09:10:00'),
  (2, '2025-04-01', 7, 203, 3, 720.00, '2026-03-31', 'Jonas Reik', '2026-01-05 09:10:00'),
  (2, '2026-04-01', 7, 104, 3, 760.00, NULL, 'Jonas Reik', '2026-01-05 09:10:00');

INSERT INTO radio_message VALUES
  (7, 'VQ17', '2026-05-01 16:55:00', 'Osprey to harbour, two miles out, berth please'),
  (7, 'VQ17', '2026-05-01 17:20:00', 'Osprey to harbour, seen the light'),
  (7, 'VQ14', '2026-03-28 11:10:00', 'Curlew to harbour, engine stopped, under tow'),
  (7, 'XX99', '2026-04-09 03:12:00', 'Unknown to harbour, wrong harbour, sorry');
