// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.condition.SqlText;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.sql.Connection;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import javax.sql.DataSource;

/** Rows that are marked as deleted and stay, and how they come back; a version that ends and its successor. */
public class MarkedAndBack {

    public static void main(String[] args) throws Exception {
        DataSource dataSource = Harbour.fresh();
        try (Connection connection = dataSource.getConnection();
                Statement statement = connection.createStatement()) {
            statement.execute("ALTER TABLE boat ADD COLUMN left_by VARCHAR(60)");
            statement.execute("ALTER TABLE boat ADD COLUMN receipt VARCHAR(40)");
            statement.execute("ALTER TABLE mooring ADD COLUMN receipt VARCHAR(40)");
        }
        RuleBook rules = RuleBook.build(book -> book.table(
                        "boat",
                        t -> t.marker(Marker.date("left_on").who("left_by").receipt("receipt")))
                .table("mooring", t -> t.marker(Marker.date("left_on").receipt("receipt")))
                .table(
                        "berth_contract",
                        t -> t.marker(Marker.versions(List.of("contract_no"), "valid_from", "valid_until")))
                .whenSoftDeleted("power_reading.mooring_id", Rule.erase())
                .whenSoftDeleted("fee.mooring_id", Rule.leave())
                .whenSoftDeleted("inspection.boat_id", Rule.leave())
                .whenSoftDeleted("logbook_entry.boat_id", Rule.leave()));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(dataSource))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();

        Receipt gone =
                vacancy.execute(Request.softDelete("boat").key(14).expect(1)).receiptOrThrow();
        System.out.println("marked:   " + gone.totals());
        System.out.println("active:   " + gone.activeCounts());
        System.out.println("again:    "
                + vacancy.preview(Request.delete("boat").key(14)).state().word());

        Preview back = vacancy.preview(Request.restore(gone.id()));
        vacancy.execute(back, back.question().answer("yes")).receiptOrThrow();
        System.out.println("back:     "
                + vacancy.preview(Request.softDelete("boat").key(14)).state().word());

        SqlText active = vacancy.tables().activeSql("boat", "b");
        System.out.println("SELECT b.name FROM boat b WHERE " + active.text());

        vacancy.execute(Request.replace("berth_contract")
                        .where(column("contract_no").equalTo(2))
                        .with(Map.of("rent", 790))
                        .from("2030-01-01")
                        .expect(1))
                .receiptOrThrow();
    }
}
