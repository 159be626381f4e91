// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.rules.TableEntry;
import io.vacancy.schema.Schema;
import io.vacancy.test.MemorySchema;
import io.vacancy.test.MemoryStore;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/** A small harbour in memory, for tests of what the core makes of it. */
public final class Harbour {

    /** When it is, in every test. */
    public static final Instant NOW = Instant.parse("2026-11-26T09:30:00Z");

    public static final Schema SCHEMA = new MemorySchema()
            .table("skipper", "id integer key", "name text", "email text null")
            .table(
                    "boat",
                    "id integer key",
                    "skipper_id integer null",
                    "name text",
                    "registration text",
                    "left_on date null")
            .table("mooring", "id integer key", "boat_id integer", "berth integer", "left_on date null")
            .table("fee", "id integer key", "mooring_id integer", "amount decimal", "paid boolean null")
            .table("inspection", "id integer key", "boat_id integer", "passed_on date")
            .table("work_order", "id integer key", "boat_id integer null", "yard_id integer")
            .table("yard", "id integer key", "name text")
            .relation("boat", "skipper_id", "skipper")
            .relation("mooring", "boat_id", "boat")
            .relation("fee", "mooring_id", "mooring")
            .relation("inspection", "boat_id", "boat")
            .relation("work_order", "boat_id", "boat")
            .relation("work_order", "yard_id", "yard")
            .build();

    private final MemoryStore store = MemoryStore.of(SCHEMA)
            .insert("skipper", 1, "Ada Lund", "ada@example.org")
            .insert("skipper", 2, "Bo Lund", null)
            .insert("boat", 14, 1, "Heron", "HV-101", null)
            .insert("boat", 17, 1, "Osprey", "HV-204", null)
            .insert("boat", 18, 2, "Tern", "HV-205", null)
            .insert("boat", 19, null, "Osprey", "HV-206", null)
            .insert("mooring", 140, 14, 2, null)
            .insert("mooring", 170, 17, 3, null)
            .insert("mooring", 171, 17, 4, null)
            .insert("mooring", 180, 18, 5, null)
            .insert("fee", 1700, 170, "12.50", true)
            .insert("fee", 1710, 171, "8.00", true)
            .insert("fee", 1800, 180, "9.00", null)
            .insert("inspection", 1, 14, "2025-05-01")
            .insert("yard", 1, "Slip and Sons")
            .insert("yard", 2, "North Yard")
            .insert("work_order", 5, 17, 1)
            .insert("work_order", 6, 18, 2);

    private final Vacancy vacancy;

    public Harbour() {
        this(rules(book -> {}));
    }

    public Harbour(RuleBook rules) {
        this(rules, builder -> builder);
    }

    public Harbour(RuleBook rules, UnaryOperator<Vacancy.Builder> further) {
        this.vacancy = further.apply(
                        Vacancy.on(store).rules(rules).actor(() -> "Mira Holm").clock(Clock.fixed(NOW, ZoneOffset.UTC)))
                .open();
    }

    /** The usual rules, and others besides. */
    public static RuleBook rules(Consumer<RuleBook.Builder> further) {
        return rules(boat -> boat, further);
    }

    private static RuleBook rules(UnaryOperator<TableEntry> boats, Consumer<RuleBook.Builder> further) {
        return RuleBook.build(book -> further.accept(book.table(
                        "boat", boat -> boats.apply(boat.label("{name} ({registration})")))
                .relation("mooring.boat_id", Rule.cascade())
                .relation(
                        "fee.mooring_id", Rule.when(column("paid").isNot(true)).block("unpaid"), Rule.cascade())
                .relation("inspection.boat_id", Rule.block("inspections must be kept"))
                .relation("work_order.boat_id", Rule.setNull())
                .relation("work_order.yard_id", Rule.reassign())));
    }

    /** The usual rules with boats and moorings that are marked by the day they left. */
    public static RuleBook marked() {
        Marker left = Marker.date("left_on");
        return rules(boat -> boat.marker(left), book -> book.table("mooring", t -> t.marker(left))
                .whenSoftDeleted("fee.mooring_id", Rule.leave())
                .whenSoftDeleted("inspection.boat_id", Rule.leave())
                .whenSoftDeleted("work_order.boat_id", Rule.leave()));
    }

    public Vacancy vacancy() {
        return vacancy;
    }

    public MemoryStore store() {
        return store;
    }

    public Preview preview(Request request) {
        return vacancy.preview(request);
    }

    /** Previews it, and answers what is asked. */
    public Outcome answered(Request request) {
        Preview preview = vacancy.preview(request);
        return vacancy.execute(
                preview, preview.question().answer(preview.question().awaited()));
    }

    public Receipt done(Request request) {
        return answered(request).receiptOrThrow();
    }
}
