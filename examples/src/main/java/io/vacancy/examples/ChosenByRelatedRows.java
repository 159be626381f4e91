// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.RelatedRows.children;

import io.vacancy.Vacancy;
import io.vacancy.condition.Condition;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import java.time.LocalDate;
import java.util.stream.Stream;

/** Rows that are chosen, and rules that are chosen, by what related rows there are. */
public class ChosenByRelatedRows {

    public static void main(String[] args) {
        Condition unpaid = children("fee.mooring_id").exists(column("paid").isNot(true));
        RuleBook rules = RuleBook.build(book ->
                book.relation("mooring.boat_id", Rule.when(unpaid).block("something is unpaid"), Rule.cascade()));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();

        Condition stayed = column("left_on").isNull().or(column("left_on").after(LocalDate.of(2026, 1, 1)));
        Request idle = Request.delete("boat").where(children("mooring.boat_id").notExists(stayed));
        try (Stream<Row> boats = vacancy.rows(idle)) {
            boats.forEach(boat -> System.out.println("idle: " + boat.text("name")));
        }

        // The same as text, as a search condition of the SQL standard.
        Condition written = SearchCondition.read("NOT EXISTS (SELECT 1 FROM mooring WHERE mooring.boat_id = boat.id"
                + " AND (left_on IS NULL OR left_on > DATE '2026-01-01'))");
        System.out.println("as text: "
                + vacancy.preview(Request.delete("boat").where(written))
                        .records()
                        .size());

        for (int boat : new int[] {17, 12}) {
            Preview preview = vacancy.preview(Request.delete("boat").key(boat));
            System.out.println("boat " + boat + ": " + preview.state().word());
            preview.blockers()
                    .forEach(blocker -> System.out.println(
                            "  " + blocker.rows() + " of " + blocker.table() + ": " + blocker.reason()));
        }
    }
}
