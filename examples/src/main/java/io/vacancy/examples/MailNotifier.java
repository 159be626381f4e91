// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.Notifier;
import jakarta.mail.Message.RecipientType;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.nio.charset.StandardCharsets;

/** Tells the recipients of a job by mail how it ended. Jobs that were ordered without recipients send none. */
public final class MailNotifier implements Notifier {

    private final Session session;
    private final String from;

    /**
     * @param session with the properties of the mail server, such as {@code mail.smtp.host}
     * @param from the address that mails come from
     */
    public MailNotifier(Session session, String from) {
        this.session = session;
        this.from = from;
    }

    @Override
    public void ended(Job job) throws MessagingException {
        if (job.settings().recipients().isEmpty()) {
            return;
        }
        MimeMessage message = new MimeMessage(session);
        message.setFrom(new InternetAddress(from));
        for (String recipient : job.settings().recipients()) {
            message.addRecipient(RecipientType.TO, new InternetAddress(recipient));
        }
        // Titles and counts only: what was deleted has no place in a mailbox.
        message.setSubject("Job " + job.name() + ": " + job.state().word(), StandardCharsets.UTF_8.name());
        message.setText(job.message() + "\n\nOrdered by " + job.by() + ".\n", StandardCharsets.UTF_8.name());
        Transport.send(message);
    }
}
