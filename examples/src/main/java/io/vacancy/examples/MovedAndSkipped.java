// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.diagram.Diagram;
import io.vacancy.diagram.Drawing;
import io.vacancy.diagram.PreviewDiagram;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.util.List;

/** Child rows that get another parent, and a bulk deletion that leaves out what is blocked. */
public class MovedAndSkipped {

    public static void main(String[] args) {
        RuleBook rules = RuleBook.build(book -> book.relation("work_order.yard_id", Rule.reassign())
                .relation("logbook_entry.answers", Rule.reassignToParents("answers"))
                .relation("inspection.boat_id", List.of("cascade"), Rule.block("kept for the insurer")));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();

        Preview moved = vacancy.preview(Request.delete("yard").key(1).reassign("work_order.yard_id", 2));
        moved.question().consequences().forEach(System.out::println);
        Diagram diagram = PreviewDiagram.of(moved, vacancy.rules());
        System.out.println(Drawing.MMD.of(diagram));

        Preview skipped = vacancy.preview(
                Request.delete("boat").where(column("harbour_id").equalTo(7)).onBlocked(OnBlocked.SKIP));
        System.out.println(
                skipped.impact().selected() + " would go, " + skipped.skipped().rows() + " skipped");
        skipped.skippedBy()
                .forEach(by -> System.out.println(by.rows() + " because of " + by.relation() + ": " + by.reason()));
    }
}
