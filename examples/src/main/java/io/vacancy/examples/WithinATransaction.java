// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import javax.sql.DataSource;

/** A deletion as part of the application's own transaction: it is for the application to commit. */
public class WithinATransaction {

    public static void main(String[] args) throws SQLException {
        DataSource dataSource = Harbour.fresh();
        Vacancy vacancy =
                Vacancy.on(JdbcStore.of(dataSource)).actor(() -> "Mira Holm").open();
        try (Connection connection = dataSource.getConnection();
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            statement.executeUpdate("UPDATE skipper SET phone = NULL WHERE id = 3");

            Outcome outcome = vacancy.within(connection)
                    .execute(Request.delete("boat").key(17).expect(1));
            System.out.println("inside:         " + outcome.state().word());

            connection.rollback();
        }
        System.out.println("rolled back:    "
                + vacancy.preview(Request.delete("boat").key(17)).state().word());
    }
}
