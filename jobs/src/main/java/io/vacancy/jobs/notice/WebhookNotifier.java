// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.notice;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobJson;
import io.vacancy.jobs.watch.Notifier;
import java.io.IOException;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;

/**
 * Tells an address by HTTP POST, as an event in the structured mode of CloudEvents 1.0. It is sent again, with longer and
 * longer pauses, until it is answered by a status of 2xx or was tried five times; so it can arrive twice, with the same
 * identifier.
 */
public final class WebhookNotifier implements Notifier {

    private final EventPost post;
    private final String source;

    /**
     * @param address where to
     * @param source what the events name as their source, a URI reference such as {@code /harbour/office}
     */
    public WebhookNotifier(URI address, String source) {
        this(address, source, Duration.ofSeconds(1));
    }

    /** @param pause how long to wait before it is sent again; twice as long each time */
    public WebhookNotifier(URI address, String source, Duration pause) {
        this.post = new EventPost(address, pause);
        this.source = Objects.requireNonNull(source, "source");
    }

    @Override
    public void ended(Job job) throws IOException, InterruptedException {
        post.send(event(job));
    }

    private String event(Job job) throws JsonProcessingException {
        ObjectMapper mapper = new ObjectMapper();
        ObjectNode event = mapper.createObjectNode();
        Instant ended = job.endedAt();
        event.put("specversion", "1.0");
        event.put("id", job.name() + "/" + job.run());
        event.put("source", source);
        event.put("type", "io.vacancy.job." + job.state().word());
        event.put("subject", job.name());
        event.put("time", ended == null ? null : ended.toString());
        event.put("datacontenttype", "application/json");
        event.set("data", mapper.readTree(JobJson.line(job)));
        return event.toString();
    }

    @Override
    public String toString() {
        return "webhook " + post;
    }
}
