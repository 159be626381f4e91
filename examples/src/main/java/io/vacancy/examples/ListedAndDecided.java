// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.math.BigDecimal;
import java.util.stream.Stream;

/** Rows that were ticked in a list, and rows that only code can decide on. */
public class ListedAndDecided {

    public static void main(String[] args) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .actor(() -> "Mira Holm")
                .open();

        Request ticked = Request.delete("fee").keys(Stream.of("702", "704", "704", "9999"));
        try (Stream<Row> missing = vacancy.missing(ticked)) {
            missing.forEach(key -> System.out.println("not there: " + key.get("id")));
        }
        Receipt listed = vacancy.execute(ticked.expect(2)).receiptOrThrow();
        System.out.println("listed:    " + listed.rows());

        Receipt decided = vacancy.execute(Request.delete("fee")
                        .everyRow()
                        .filter(fee -> new BigDecimal(fee.text("amount"))
                                        .remainder(new BigDecimal(100))
                                        .signum()
                                == 0)
                        .withoutConfirmation("round sums were test bookings"))
                .receiptOrThrow();
        System.out.println("decided:   " + decided.rows());
    }
}
