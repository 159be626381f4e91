// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.harbour.BigHarbour;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/**
 * Ways of keeping the images of rows that go, and of bringing them back: each by two statements, one that puts the
 * images into a table made beforehand and one that inserts the rows from there.
 */
final class KeepingImages {

    private static final int BOATS = Integer.getInteger("boats", 5_000);
    private static final int ROUNDS = Integer.getInteger("rounds", 3);
    private static final List<String> COLUMNS = List.of("id", "harbour_id", "mooring_id", "read_at", "kwh");
    private static final List<String> TYPES = List.of("BIGINT", "INTEGER", "BIGINT", "TIMESTAMP", "DECIMAL(12,3)");

    private KeepingImages() {}

    /** How images are put into {@code image} and how the rows are made of them again. */
    private record Form(String name, String table, String keep, String back) {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.onDisk();
        List<Form> forms = forms(engine);
        try (Connection connection = database.connect()) {
            connection.setAutoCommit(false);
            BigHarbour.build(connection, BOATS);
            for (int i = 0; i < forms.size(); i++) {
                execute(connection, named(forms.get(i).table(), i));
                execute(
                        connection,
                        named(
                                "INSERT INTO image (receipt_no, line, "
                                        + forms.get(i).keep(),
                                i));
            }
            connection.commit();
            Rounds archivePolicy = new Rounds(
                            "Keeping " + 100 * BOATS + " rows and deleting them, " + engine, new RoundTrips())
                    .afterEach(connection::rollback)
                    .way("delete only", () -> execute(connection, "DELETE FROM power_reading"));
            Rounds returning = new Rounds("Bringing them back into an empty table, " + engine, new RoundTrips())
                    .afterEach(connection::rollback);
            execute(
                    connection,
                    "CREATE TABLE power_back (id BIGINT NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL,"
                            + " mooring_id BIGINT NOT NULL, read_at TIMESTAMP, kwh DECIMAL(12,3))");
            connection.commit();
            for (int i = 0; i < forms.size(); i++) {
                int number = i;
                Form form = forms.get(i);
                archivePolicy.way(form.name(), "delete only", () -> {
                    execute(connection, named("INSERT INTO image (receipt_no, line, " + form.keep(), number));
                    execute(connection, "DELETE FROM power_reading");
                });
                if (!form.back().isEmpty()) {
                    returning.way(
                            form.name(),
                            forms.get(0).name(),
                            () -> execute(connection, named("INSERT INTO power_back " + form.back(), number)));
                }
            }
            archivePolicy.run(1, ROUNDS).report(ratios);
            returning.run(1, ROUNDS).report(ratios);
        }
    }

    private static String named(String sql, int number) {
        return sql.replace("image", "image_" + number);
    }

    private static List<Form> forms(Engine engine) {
        List<Form> forms = new ArrayList<>();
        String all = String.join(", ", COLUMNS);
        List<String> typed = new ArrayList<>();
        for (int i = 0; i < COLUMNS.size(); i++) {
            typed.add(COLUMNS.get(i) + " " + TYPES.get(i));
        }
        String head = "CREATE TABLE image (receipt_no BIGINT, line INTEGER, ";
        forms.add(new Form(
                "a typed table of its own",
                head + String.join(", ", typed) + ")",
                all + ") SELECT 1, 1, " + all + " FROM power_reading t",
                "SELECT " + all + " FROM image"));
        switch (engine) {
            case POSTGRESQL -> {
                forms.add(new Form(
                        "array of texts",
                        head + "cells TEXT[])",
                        "cells) SELECT 1, 1, ARRAY[id::text, harbour_id::text, mooring_id::text, read_at::text, kwh::text]"
                                + " FROM power_reading t",
                        "SELECT cells[1]::bigint, cells[2]::integer, cells[3]::bigint, cells[4]::timestamp,"
                                + " cells[5]::decimal FROM image"));
                forms.add(new Form(
                        "columns of texts",
                        head + "a TEXT, b TEXT, c TEXT, d TEXT, e TEXT, f TEXT, g TEXT, h TEXT)",
                        "a, b, c, d, e) SELECT 1, 1, id::text, harbour_id::text, mooring_id::text, read_at::text, kwh::text"
                                + " FROM power_reading t",
                        "SELECT a::bigint, b::integer, c::bigint, d::timestamp, e::decimal FROM image"));
                forms.add(new Form(
                        "row text",
                        head + "cells TEXT)",
                        "cells) SELECT 1, 1, t::text FROM power_reading t",
                        "SELECT (r.r).* FROM (SELECT cells::power_reading AS r FROM image OFFSET 0) r"));
                forms.add(new Form(
                        "JSON array by the engine",
                        head + "cells JSON)",
                        "cells) SELECT 1, 1, json_build_array(" + all + ") FROM power_reading t",
                        "SELECT (cells->>0)::bigint, (cells->>1)::integer, (cells->>2)::bigint, (cells->>3)::timestamp,"
                                + " (cells->>4)::decimal FROM image"));
                forms.add(new Form(
                        "JSON object by the engine",
                        head + "cells JSONB)",
                        "cells) SELECT 1, 1, to_jsonb(t) FROM power_reading t",
                        "SELECT r.* FROM image, jsonb_populate_record(NULL::power_reading, cells) r"));
            }
            case MARIADB -> {
                forms.add(new Form(
                        "columns of bytes",
                        head + "a LONGBLOB, b LONGBLOB, c LONGBLOB, d LONGBLOB, e LONGBLOB, f LONGBLOB, g LONGBLOB)",
                        "a, b, c, d, e) SELECT 1, 1, " + all + " FROM power_reading t",
                        "SELECT a, b, c, d, e FROM image"));
                forms.add(new Form(
                        "text with separators",
                        head + "cells LONGTEXT)",
                        "cells) SELECT 1, 1, CONCAT_WS(CHAR(31), " + all + ") FROM power_reading t",
                        ""));
                forms.add(new Form(
                        "JSON array by the engine",
                        head + "cells LONGTEXT CHARACTER SET utf8mb4)",
                        "cells) SELECT 1, 1, JSON_ARRAY(" + all + ") FROM power_reading t",
                        "SELECT JSON_VALUE(cells, '$[0]'), JSON_VALUE(cells, '$[1]'), JSON_VALUE(cells, '$[2]'),"
                                + " JSON_VALUE(cells, '$[3]'), JSON_VALUE(cells, '$[4]') FROM image"));
            }
            case H2 -> {
                forms.add(new Form(
                        "array of texts",
                        head + "cells VARCHAR ARRAY)",
                        "cells) SELECT 1, 1, ARRAY[CAST(id AS VARCHAR), CAST(harbour_id AS VARCHAR),"
                                + " CAST(mooring_id AS VARCHAR), CAST(read_at AS VARCHAR), CAST(kwh AS VARCHAR)]"
                                + " FROM power_reading t",
                        "SELECT CAST(cells[1] AS BIGINT), CAST(cells[2] AS INTEGER), CAST(cells[3] AS BIGINT),"
                                + " CAST(cells[4] AS TIMESTAMP), CAST(cells[5] AS DECIMAL(12,3)) FROM image"));
                forms.add(new Form(
                        "columns of texts",
                        head + "a VARCHAR, b VARCHAR, c VARCHAR, d VARCHAR, e VARCHAR, f VARCHAR, g VARCHAR)",
                        "a, b, c, d, e) SELECT 1, 1, " + all + " FROM power_reading t",
                        "SELECT CAST(a AS BIGINT), CAST(b AS INTEGER), CAST(c AS BIGINT), CAST(d AS TIMESTAMP),"
                                + " CAST(e AS DECIMAL(12,3)) FROM image"));
                forms.add(new Form(
                        "JSON array by the engine",
                        head + "cells JSON)",
                        "cells) SELECT 1, 1, JSON_ARRAY(id, harbour_id, mooring_id, CAST(read_at AS VARCHAR), kwh)"
                                + " FROM power_reading t",
                        ""));
            }
            case SQLITE -> {
                forms.add(new Form(
                        "columns without a type",
                        head + "a, b, c, d, e, f, g, h, i, j, k, l)",
                        "a, b, c, d, e) SELECT 1, 1, " + all + " FROM power_reading t",
                        "SELECT a, b, c, d, e FROM image"));
                forms.add(new Form(
                        "text of literals",
                        head + "cells TEXT)",
                        "cells) SELECT 1, 1, quote(id) || ',' || quote(harbour_id) || ',' || quote(mooring_id) || ','"
                                + " || quote(read_at) || ',' || quote(kwh) FROM power_reading t",
                        ""));
                forms.add(new Form(
                        "JSON array by the engine",
                        head + "cells TEXT)",
                        "cells) SELECT 1, 1, json_array(" + all + ") FROM power_reading t",
                        "SELECT cells->>0, cells->>1, cells->>2, cells->>3, cells->>4 FROM image"));
            }
        }
        return forms;
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
