// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.notice;

import io.vacancy.trail.OutboxEvent;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.Objects;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Posts events in the structured mode of CloudEvents 1.0 to an address: those of the outbox, one after the other. Each is
 * sent again, with longer and longer pauses, until it is answered by a status of 2xx or was tried five times. For any
 * thread.
 */
public final class EventPost implements Consumer<OutboxEvent> {

    private static final int TRIES = 5;
    private static final int FIRST_SERVER_ERROR = 500;
    private static final int TOO_MANY_REQUESTS = 429;

    private final URI address;
    private final Duration pause;
    private final HttpClient client =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(10)).build();

    /** @param address where to */
    public EventPost(URI address) {
        this(address, Duration.ofSeconds(1));
    }

    /** @param pause how long to wait before an event is sent again; twice as long each time */
    public EventPost(URI address, Duration pause) {
        this.address = Objects.requireNonNull(address, "address");
        this.pause = Objects.requireNonNull(pause, "pause");
    }

    /**
     * Sends an event of the outbox.
     *
     * @throws UncheckedIOException if it was not taken; then it stays in the outbox
     */
    @Override
    public void accept(OutboxEvent event) {
        try {
            send(event.content());
        } catch (IOException failed) {
            throw new UncheckedIOException(failed.getMessage(), failed);
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
            throw new UncheckedIOException(new IOException("it was interrupted"));
        }
    }

    /**
     * Sends an event.
     *
     * @throws IOException if it was not taken
     */
    void send(String event) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(address)
                .timeout(Duration.ofSeconds(30))
                .header("Content-Type", "application/cloudevents+json; charset=UTF-8")
                .POST(HttpRequest.BodyPublishers.ofString(event))
                .build();
        for (int attempt = 1; ; attempt++) {
            String failure = send(request);
            if (failure == null) {
                return;
            }
            if (attempt == TRIES) {
                throw new IOException(failure);
            }
            Thread.sleep(pause.multipliedBy(1L << (attempt - 1)).toMillis());
        }
    }

    /**
     * What went wrong in a way that may pass; null where nothing did.
     *
     * @throws IOException if sending it again would not help
     */
    private @Nullable String send(HttpRequest request) throws IOException, InterruptedException {
        int status;
        try {
            status =
                    client.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
        } catch (IOException unreachable) {
            return String.valueOf(unreachable.getMessage());
        }
        if (status / 100 == 2) {
            return null;
        }
        String answered = "it was answered by status " + status;
        if (status < FIRST_SERVER_ERROR && status != TOO_MANY_REQUESTS) {
            throw new IOException(answered);
        }
        return answered;
    }

    @Override
    public String toString() {
        return String.valueOf(address.getHost());
    }
}
