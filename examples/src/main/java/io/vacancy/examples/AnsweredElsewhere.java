// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.json.PreviewDocument;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import javax.sql.DataSource;

/** A preview travels as JSON to whoever answers, and only the answer comes back; what has changed meanwhile changes nothing. */
public class AnsweredElsewhere {

    public static void main(String[] args) throws SQLException {
        DataSource dataSource = Harbour.fresh();
        Vacancy vacancy =
                Vacancy.on(JdbcStore.of(dataSource)).actor(() -> "Mira Holm").open();

        Request request = Request.delete("boat").key(17).because("sold");
        String sent = new JsonWriter().write(vacancy.preview(request));

        // The page shows the document, and sends back nothing but the fingerprint and what was typed.
        PreviewDocument shown = new JsonReader(vacancy.schema()).preview(sent);
        System.out.println(shown.question().title());
        String reply = new JsonWriter().write(shown.answer("yes"));

        // Meanwhile somebody takes another reading and another fee falls due.
        try (Connection connection = dataSource.getConnection();
                Statement statement = connection.createStatement()) {
            statement.executeUpdate("INSERT INTO fee VALUES (710, 7, 507, 120.00, '2026-07-31', NULL)");
        }

        // The request is the server's own, and everything is judged anew.
        Outcome outcome = vacancy.execute(request, new JsonReader(vacancy.schema()).answer(reply));
        System.out.println(outcome.state().word() + ": " + outcome.message());
    }
}
