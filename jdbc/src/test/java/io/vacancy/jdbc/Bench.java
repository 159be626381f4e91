// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.harbour.HarbourOffice;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rules.RuleBook;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;

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

    /** The same database, with rules and somebody else. */
    Vacancy with(RuleBook rules) {
        return Vacancy.on(JdbcStore.of(database.source()))
                .rules(rules)
                .actor(() -> "Tavi Orn")
                .open();
    }

    /** The same with rules in YAML. */
    Vacancy with(String rules) {
        return with(RuleBookFile.read(rules, "rules"));
    }

    /** Looked at, confirmed and carried out. */
    static Outcome done(Vacancy vacancy, Request request) {
        Preview preview = vacancy.preview(request);
        return vacancy.execute(
                preview, preview.question().answer(preview.question().awaited()));
    }

    static List<String> written(List<Effect> effects) {
        return effects.stream()
                .map(effect ->
                        effect.action().word() + " " + effect.table() + " " + effect.relation() + " " + effect.rows())
                .toList();
    }

    long count(String what) {
        return database.count(what);
    }
}
