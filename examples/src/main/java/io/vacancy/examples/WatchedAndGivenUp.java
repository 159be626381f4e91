// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.failure.CancelledException;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Listener;
import io.vacancy.listener.Progress;
import io.vacancy.request.Request;

/** A long deletion that tells how far it is, and that another thread has given up. */
public class WatchedAndGivenUp {

    public static void main(String[] args) {
        Cancellation cancellation = new Cancellation();
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .actor(() -> "Mira Holm")
                .listener(new Listener() {
                    @Override
                    public void progress(Request request, Progress progress) {
                        System.out.println(progress.step().word() + " " + progress.table() + ": " + progress.done()
                                + " of " + progress.expected() + ", rest " + progress.rest());
                    }
                })
                .open()
                .cancelledBy(cancellation);

        new Thread(cancellation::cancel).start();
        while (!cancellation.cancelled()) {
            Thread.onSpinWait();
        }
        try {
            vacancy.execute(Request.delete("mooring")
                    .where(column("left_on").isNotNull())
                    .withoutConfirmation("clean-up"));
        } catch (CancelledException cancelled) {
            System.out.println(cancelled.getMessage());
        }
    }
}
