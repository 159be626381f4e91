// SPDX-License-Identifier: Apache-2.0
package io.vacancy.harbour;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * The harbour office's tables at any size: boats with ten moorings each, moorings with ten power readings
 * each. Every second boat has left, on 2 May 2020; the others are here.
 */
public final class BigHarbour {

    private static final int MOST_BOATS = 100_000;

    private BigHarbour() {}

    /**
     * Makes the tables in an empty database and fills them with 111 rows a boat. Commits nothing if auto-commit
     * is off.
     *
     * @param boats from 1 to 100,000
     */
    public static void build(Connection connection, int boats) throws SQLException {
        if (boats < 1 || boats > MOST_BOATS) {
            throw new IllegalArgumentException(boats + " boats");
        }
        HarbourOffice.tables(connection).forEach(sql -> execute(connection, sql));
        execute(connection, "CREATE TABLE digit (n INTEGER NOT NULL PRIMARY KEY)");
        execute(connection, "INSERT INTO digit VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9)");
        execute(connection, "INSERT INTO skipper VALUES (1, 7, 'Mira Holm', 'mira@harbour.example', NULL)");
        execute(connection, "INSERT INTO pier VALUES (1, 7, 'North pier', NULL)");
        execute(connection, "INSERT INTO berth VALUES (1, 7, 1, 1)");
        execute(connection, """
                INSERT INTO boat (id, harbour_id, skipper_id, name, registration)
                SELECT b.id, 7, 1, 'Osprey', CONCAT('HV-', b.id)
                  FROM (SELECT 1 + u.n + 10 * t.n + 100 * h.n + 1000 * k.n + 10000 * m.n AS id
                          FROM digit u CROSS JOIN digit t CROSS JOIN digit h CROSS JOIN digit k CROSS JOIN digit m) b
                 WHERE b.id <= %d""".formatted(boats));
        execute(connection, "UPDATE boat SET left_on = '2020-05-02' WHERE id % 2 = 0");
        execute(connection, """
                INSERT INTO mooring (id, harbour_id, boat_id, berth_id, arrived_on)
                SELECT 10 * b.id + d.n, 7, b.id, 1, '2019-05-01' FROM boat b CROSS JOIN digit d""");
        execute(connection, """
                INSERT INTO power_reading (id, harbour_id, mooring_id, read_at, kwh)
                SELECT 10 * m.id + d.n, 7, m.id, '2019-06-01 12:00:00', 12.5 FROM mooring m CROSS JOIN digit d""");
        execute(connection, "DROP TABLE digit");
    }

    private static void execute(Connection connection, String sql) {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException failed) {
            throw new IllegalStateException(sql, failed);
        }
    }
}
