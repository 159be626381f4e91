// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import javax.sql.DataSource;

/** A table is dropped, is wanted back, and is made again and filled. */
public class DroppedAndMadeAgain {

    public static void main(String[] args) throws SQLException {
        DataSource source = Harbour.fresh();
        Vacancy vacancy =
                Vacancy.on(JdbcStore.of(source)).actor(() -> "Mira Holm").open();
        vacancy.archive().setUp();

        System.out.println(
                "mooring: " + vacancy.preview(Request.drop("mooring")).state().word());

        Request drop = Request.drop("radio_message").because("kept elsewhere");
        Preview preview = vacancy.preview(drop);
        System.out.println(
                preview.question().title() + " Type " + preview.question().awaited() + ".");
        Receipt receipt = vacancy.execute(preview, preview.question().answer("radio_message"))
                .receiptOrThrow();

        try (Connection connection = source.getConnection();
                Statement statement = connection.createStatement()) {
            for (String definition : receipt.definition()) {
                statement.execute(definition);
            }
        }
        vacancy.refresh();
        Receipt back = vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("it was missed"))
                .receiptOrThrow();
        System.out.println("back: " + back.rows() + " rows of " + back.table());
    }
}
