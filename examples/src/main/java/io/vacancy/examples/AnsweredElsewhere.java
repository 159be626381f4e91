package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.text.json.JsonReader;
import io.vacancy.text.json.JsonWriter;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import javax.sql.DataSource;

/** A preview travels as JSON to whoever answers; what changed meanwhile changes nothing and is told. */
public class AnsweredElsewhere {

    public static void main(String[] args) throws SQLException {
        DataSource dataSource = Harbour.fresh();
        Vacancy vacancy =
                Vacancy.on(JdbcStore.of(dataSource)).actor(() -> "Mira Holm").open();

        String sent =
                new JsonWriter().write(vacancy.preview(Request.from("boat").key(17)));

        // Meanwhile somebody takes another reading and another fee falls due.
        try (Connection connection = dataSource.getConnection();
                Statement statement = connection.createStatement()) {
            statement.executeUpdate("INSERT INTO fee VALUES (710, 7, 507, 120.00, '2026-07-31', NULL)");
        }

        Preview seen = new JsonReader(vacancy.schema()).preview(sent);
        Outcome outcome = vacancy.carryOut(seen, seen.question().answer("yes"));
        System.out.println(outcome.state() + ": " + outcome.message());
    }
}
