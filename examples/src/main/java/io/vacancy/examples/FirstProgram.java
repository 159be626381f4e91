// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import javax.sql.DataSource;

/** The program of the README. */
public class FirstProgram {

    public static void main(String[] args) {
        DataSource dataSource = Harbour.fresh();
        Vacancy vacancy =
                Vacancy.on(JdbcStore.of(dataSource)).actor(() -> "Mira Holm").open();

        Preview seen = vacancy.preview(Request.delete("boat").key("17").because("sold"));
        System.out.println(seen.question().title());
        seen.question().consequences().forEach(System.out::println);

        Outcome outcome = vacancy.execute(seen, seen.question().answer("yes"));
        System.out.println(outcome.message());
    }
}
