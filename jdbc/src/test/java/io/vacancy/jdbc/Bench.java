// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.harbour.HarbourOffice;
import java.sql.Connection;
import java.sql.SQLException;

/** A database with Vacancy on it. */
record Bench(Database database, Vacancy vacancy) {

    /** The harbour office on an engine. */
    static Bench harbour(Engine engine) {
        Database database = engine.fresh();
        try (Connection connection = database.connect()) {
            HarbourOffice.build(connection);
        } catch (SQLException failed) {
            throw new IllegalStateException(failed);
        }
        return on(database);
    }

    /** Tables of the test's own. */
    static Bench of(Engine engine, String... statements) {
        Database database = engine.fresh();
        database.run(statements);
        return on(database);
    }

    static Bench on(Database database) {
        return new Bench(
                database,
                Vacancy.on(JdbcStore.of(database.source()))
                        .actor(() -> "Mira Holm")
                        .open());
    }

    long count(String what) {
        return database.count(what);
    }
}
