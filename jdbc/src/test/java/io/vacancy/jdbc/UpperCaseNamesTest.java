// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.harbour.HarbourOffice;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.schema.TimeEncoding;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** On H2 as it comes, names that are not quoted are kept in upper case; whoever writes them in lower case is understood. */
class UpperCaseNamesTest {

    private static final RuleBook RULES = RuleBook.build(book -> book.table(
                    "boat", t -> t.label("{name} ({registration})").marker(Marker.date("left_on")))
            .table("skipper", t -> t.personal("email", "phone"))
            .relation("mooring.boat_id", Rule.cascade())
            .relation("fee.mooring_id", Rule.when(column("paid").isNot(true)).block("unpaid"), Rule.cascade())
            .relation("work_order.yard_id", Rule.reassign())
            .relation("radio_message.call_sign -> boat.registration", Rule.leave())
            .whenSoftDeleted("mooring.boat_id", Rule.leave())
            .whenSoftDeleted("inspection.boat_id", Rule.leave())
            .whenSoftDeleted("logbook_entry.boat_id", Rule.leave())
            .deletion("left-moorings", d -> d.from("mooring")
                    .where(column("left_on").isNotNull())));

    private static Database harbour() throws SQLException {
        Database database = Engine.h2AsItComes();
        try (Connection connection = database.connect()) {
            HarbourOffice.build(connection);
        }
        return database;
    }

    private static Vacancy.Builder on(Database database) {
        return Vacancy.on(JdbcStore.of(database.source())).actor(() -> "Mira Holm");
    }

    /** Columns that are written into statements, and not only looked up. */
    @Test
    void stampsVersionsAndEncodingsAreSpelledAsTheTableHasThem() {
        Database database = Engine.h2AsItComes();
        database.run(
                "CREATE TABLE boat (id INTEGER PRIMARY KEY, name VARCHAR(20), left_at BIGINT, changed_by VARCHAR(20),"
                        + " changed_at TIMESTAMP, version INTEGER)",
                "INSERT INTO boat (id, name, version) VALUES (1, 'Osprey', 3), (2, 'Heron', 0)");
        Vacancy vacancy = on(database)
                .rules(RuleBook.build(book -> book.table("boat", t -> t.marker(Marker.date("left_at"))
                        .times("left_at", TimeEncoding.EPOCH_SECONDS)
                        .auditColumns("changed_by", "changed_at")
                        .version("version")
                        .uniqueWhileActive("name"))))
                .open();
        vacancy.archive().setUp();

        Receipt receipt = vacancy.execute(Request.softDelete("boat").key(1).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(database.count("boat WHERE left_at > 0 AND changed_by = 'Mira Holm' AND version = 4"))
                .isOne();
        database.run("UPDATE boat SET name = 'Osprey' WHERE id = 2");
        assertThat(vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test")))
                .isInstanceOf(Outcome.Blocked.class);
    }

    @Test
    void theDocumentationsSpellingWorksEverywhere() throws SQLException {
        Database database = harbour();
        Vacancy vacancy = on(database).rules(RULES).open();
        vacancy.archive().setUp();
        assertThat(vacancy.schema().table("boat").name()).isEqualTo(TableName.of("BOAT"));

        Preview yard = vacancy.preview(Request.delete("yard").key(1).reassign("work_order.yard_id", 2));
        assertThat(yard.state()).isEqualTo(Preview.State.READY);
        Preview unpaid = vacancy.preview(Request.erase("boat").key(17));
        assertThat(unpaid.blockers()).extracting(blocker -> blocker.reason()).contains("unpaid");
        Preview skipped = vacancy.preview(Request.delete("mooring")
                .where(column("left_on").isNotNull())
                .onBlocked(io.vacancy.request.OnBlocked.SKIP)
                .orderBy("left_on")
                .limit(2));
        assertThat(skipped.impact().selected()).isPositive();
        assertThat(vacancy.preview(vacancy.request("left-moorings", Map.of()))
                        .impact()
                        .selected())
                .isPositive();

        Receipt marked =
                vacancy.execute(Request.softDelete("boat").key(14).expect(1)).receiptOrThrow();
        Row boat = marked.record();
        assertThat(boat.getLong("id")).isEqualTo(14);
        assertThat(boat.getString("name")).isEqualTo(boat.get("NAME"));
        assertThat(boat.get("id", Integer.class)).isEqualTo(14);
        assertThatThrownBy(() -> boat.get("nmae")).hasMessageContaining("NAME");
        assertThat(vacancy.execute(Request.restore("boat").key(14).expect(1))).isInstanceOf(Outcome.Done.class);

        Receipt gone = vacancy.execute(Request.erase("berth_service")
                        .key(Key.of("berth_id", 101, "service", "water"))
                        .expect(1))
                .receiptOrThrow();
        assertThat(vacancy.image(gone.id(), "berth_service", "berth_id=101,service=water"))
                .isPresent();
        assertThat(vacancy.execute(
                        Request.restore(gone.id(), "berth_service").everyRow().expect(1)))
                .isInstanceOf(Outcome.Done.class);
        assertThat(vacancy.history().of("berth_service").page(10).entries()).hasSize(2);
        assertThat(vacancy.tables().counts(List.of(TableName.of("boat"))).values())
                .containsExactly(8L);
        assertThat(vacancy.tables().activeSql("boat", "b").text()).contains("LEFT_ON");
        assertThat(vacancy.tables().orphans("mooring.boat_id")).isEmpty();
    }

    @Test
    void scopeAndPermissionHoldInAnySpelling() throws SQLException {
        Database database = harbour();
        Vacancy vacancy = on(database)
                .scope(() -> Scope.where("harbour_id", 7))
                .permission((who, table, act) -> act == Act.ERASE && table.is("skipper") ? who + " may not." : null)
                .open();
        long others = database.count("boat WHERE harbour_id <> 7");
        assertThat(others).isPositive();
        Preview all = vacancy.preview(Request.erase("boat").everyRow());
        assertThat(all.impact().selected()).isEqualTo(database.count("boat WHERE harbour_id = 7"));
        assertThat(vacancy.execute(Request.erase("skipper").key(4).withoutConfirmation("a test")))
                .isInstanceOf(Outcome.Refused.class);
    }

    @Test
    void namesThatDifferInCaseOnlyAreTakenAsTheyAreWritten() {
        Database database = Engine.h2AsItComes();
        database.run(
                "CREATE TABLE \"boat\" (\"id\" INTEGER NOT NULL PRIMARY KEY, \"ID\" INTEGER)",
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "INSERT INTO \"boat\" VALUES (1, 2)");
        Vacancy vacancy = on(database).open();
        assertThat(vacancy.preview(Request.erase("boat").key(1)).impact().selected())
                .isEqualTo(1);
        assertThat(vacancy.preview(Request.erase("BOAT").key(1)).state()).isEqualTo(Preview.State.NOTHING);
        assertThatThrownBy(() -> vacancy.preview(Request.erase("Boat").key(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("could be");
    }
}
