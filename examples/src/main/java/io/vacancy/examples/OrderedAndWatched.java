// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.order.JobOrder.Upkeep;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.watch.Job;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.time.Duration;
import java.time.ZoneId;
import javax.sql.DataSource;

/** A deletion that is ordered as a job, carried out in the background and watched; and upkeep that recurs. */
public class OrderedAndWatched {

    public static void main(String[] args) throws InterruptedException {
        DataSource dataSource = Harbour.fresh();
        JdbcStore store = JdbcStore.of(dataSource);
        Vacancy vacancy = Vacancy.on(store).actor(() -> "Mira Holm").open();
        vacancy.archive().setUp();

        try (Jobs jobs = Jobs.on(vacancy, store, dataSource)
                .listener(job -> System.out.println("heard: " + job.state().word()))
                .open()) {
            // Shown and answered as any deletion; the answer covers the job.
            Preview shown = vacancy.preview(
                    Request.delete("power_reading").where(column("kwh").lessThan(20)));
            Job ordered = jobs.submit(
                            JobOrder.of(shown).named("small-readings"),
                            shown.question().answer("yes"))
                    .jobOrThrow();
            System.out.println(ordered.message());

            // What expires by the rule book goes every night, on whichever node is there.
            jobs.submit(JobOrder.of(Upkeep.PURGE_DUE)
                    .named("retention")
                    .every(Recurrence.read("03:00", ZoneId.of("Europe/Oslo"))));

            jobs.start();
            Job over = jobs.await("small-readings", Duration.ofMinutes(1));
            System.out.println(over.message());
            System.out.println("restored: "
                    + vacancy.execute(Request.restore(over.receiptOrThrow()).withoutConfirmation("a mistake"))
                            .receiptOrThrow()
                            .rows());
        }
    }
}
