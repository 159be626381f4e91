// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.GreenMailUtil;
import com.icegreen.greenmail.util.ServerSetupTest;
import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.request.Request;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import java.time.Duration;
import java.util.Properties;
import javax.sql.DataSource;

/** Somebody is told by mail that a job is over; a stand-in takes the place of the mail server. */
public class ToldByMail {

    public static void main(String[] args) throws Exception {
        DataSource dataSource = Harbour.fresh();
        JdbcStore store = JdbcStore.of(dataSource);
        Vacancy vacancy = Vacancy.on(store).actor(() -> "Mira Holm").open();
        vacancy.archive().setUp();
        GreenMail server = new GreenMail(ServerSetupTest.SMTP.dynamicPort());
        server.start();
        Properties mail = new Properties();
        mail.setProperty("mail.smtp.host", server.getSmtp().getBindTo());
        mail.setProperty("mail.smtp.port", String.valueOf(server.getSmtp().getPort()));

        try (Jobs jobs = Jobs.on(vacancy, store, dataSource)
                .notifier(new MailNotifier(Session.getInstance(mail), "jobs@harbour.example"))
                .open()) {
            jobs.start();
            jobs.submit(JobOrder.of(Request.delete("power_reading")
                                    .where(column("kwh").lessThan(20))
                                    .withoutConfirmation("readings that were taken by mistake"))
                            .named("small-readings")
                            .tell("mira.holm@harbour.example"))
                    .jobOrThrow();
            jobs.await("small-readings", Duration.ofMinutes(1));
            server.waitForIncomingEmail(10_000, 1);
            for (MimeMessage message : server.getReceivedMessages()) {
                System.out.println("to " + message.getAllRecipients()[0] + ": " + message.getSubject());
                System.out.println(GreenMailUtil.getBody(message).strip());
            }
        } finally {
            server.stop();
        }
    }
}
