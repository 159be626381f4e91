// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import io.vacancy.Vacancy;
import io.vacancy.failure.BusyException;
import io.vacancy.failure.CancelledException;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.TransactionLostException;
import io.vacancy.failure.VacancyException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.web.internal.http.Exchange;
import io.vacancy.web.internal.http.ProblemException;
import io.vacancy.web.internal.resource.ApiDocument;
import io.vacancy.web.internal.resource.AskedDocument;
import io.vacancy.web.internal.resource.PastResource;
import io.vacancy.web.internal.resource.QuestionResource;
import io.vacancy.web.internal.resource.RecordResource;
import io.vacancy.web.internal.resource.ResourceCollection;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Deletions, restores, replacements and purges as resources, in JSON: asked for, shown, answered, withdrawn; with receipts, the
 * archive and the audit history. To be mounted at a path of the application, behind its authentication:
 * {@code context.addServlet(new ServletHolder(api), "/api/*")}.
 *
 * <p>Whoever asks is the actor of the {@link Vacancy}, which it looks up on the thread of the request. Nothing is ever deleted by
 * a GET, and nothing is taken from a form: bodies are {@code application/json}, which no page of another site can send
 * without being let in by the application. Serves all threads.
 */
public final class DeletionApi extends HttpServlet {

    private static final Logger LOG = LoggerFactory.getLogger(DeletionApi.class);
    private static final int LONGEST_BODY = 64 * 1024;
    private static final int MOST_KEYS = 1_000;

    private final transient Vacancy vacancy;
    private final transient Exposure exposure;
    private final transient RateLimit rateLimit;
    private final int longestBody;
    private final int mostKeys;

    private DeletionApi(Vacancy vacancy, Exposure exposure, RateLimit rateLimit, int longestBody, int mostKeys) {
        this.vacancy = vacancy;
        this.exposure = exposure;
        this.rateLimit = rateLimit;
        this.longestBody = longestBody;
        this.mostKeys = mostKeys;
    }

    /**
     * With bodies of at most 64 KiB and 1,000 keys, and no limit to how often is asked.
     *
     * @throws MisuseException if something is opened that is not there
     */
    public static DeletionApi of(Vacancy vacancy, Exposure exposure) {
        Arguments.notNull(exposure, "exposure")
                .fit(Arguments.notNull(vacancy, "vacancy").rules());
        return new DeletionApi(vacancy, exposure, RateLimit.NONE, LONGEST_BODY, MOST_KEYS);
    }

    /** The same that asks before each request whether it comes too soon. */
    public DeletionApi rateLimit(RateLimit limit) {
        return new DeletionApi(vacancy, exposure, Arguments.notNull(limit, "limit"), longestBody, mostKeys);
    }

    /**
     * The same with other limits to what a client sends.
     *
     * @param bytes of a body, from 1,000
     * @param keys in one request, from 1
     */
    public DeletionApi limits(int bytes, int keys) {
        if (bytes < 1_000 || keys < 1) {
            throw new MisuseException("A client must be able to send 1,000 bytes and one key.");
        }
        return new DeletionApi(vacancy, exposure, rateLimit, bytes, keys);
    }

    @Override
    protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
        Exchange exchange = new Exchange(request, response, longestBody);
        exchange.set("Cache-Control", "no-store");
        exchange.set("X-Content-Type-Options", "nosniff");
        exchange.set("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'");
        try {
            admit(request);
            handle(exchange);
        } catch (ProblemException problem) {
            exchange.send(problem);
        } catch (RuntimeException failed) {
            exchange.send(problem(failed));
        }
    }

    private void admit(HttpServletRequest request) {
        Duration wait = rateLimit.waitFor(request);
        if (wait != null) {
            throw new ProblemException(429, "too-often", "It was asked too often; wait.")
                    .header("Retry-After", String.valueOf(Math.max(1, wait.toSeconds())));
        }
        if ("cross-site".equals(request.getHeader("Sec-Fetch-Site"))) {
            throw new ProblemException(403, "cross-site", "Pages of another site are not let in.");
        }
    }

    private void handle(Exchange exchange) throws IOException {
        List<String> path = exchange.path();
        ResourceCollection collection = path.isEmpty() ? null : ResourceCollection.at(path.get(0));
        if (collection != null) {
            questions(exchange, collection, path.subList(1, path.size()));
            return;
        }
        PastResource past = new PastResource(vacancy, exposure);
        String resource = String.join("/", path.subList(0, Math.min(1, path.size()))) + ":" + path.size();
        switch (resource) {
            case "records:3" -> {
                only(exchange, "DELETE");
                new RecordResource(vacancy, asked()).delete(exchange, path.get(1), path.get(2));
            }
            case "receipts:2" -> {
                only(exchange, "GET");
                past.receipt(exchange, path.get(1));
            }
            case "receipts:1" -> {
                only(exchange, "GET");
                past.receipts(exchange);
            }
            case "archive:1" -> {
                only(exchange, "GET");
                past.archive(exchange);
            }
            case "openapi.json:1" -> {
                only(exchange, "GET");
                exchange.send(200, ApiDocument.at(exchange.base()));
            }
            case "history:1" -> {
                only(exchange, "GET");
                past.history(exchange);
            }
            default -> throw notFound();
        }
    }

    private void questions(Exchange exchange, ResourceCollection collection, List<String> rest) throws IOException {
        QuestionResource questions = new QuestionResource(vacancy, asked());
        if (rest.isEmpty()) {
            only(exchange, "POST");
            questions.create(exchange, collection);
        } else if (rest.size() == 2 && rest.get(1).equals("answer")) {
            only(exchange, "POST");
            questions.answer(exchange, collection, rest.get(0));
        } else if (rest.size() == 1) {
            only(exchange, "GET", "DELETE");
            if (exchange.method().equals("GET")) {
                questions.read(exchange, collection, rest.get(0));
            } else {
                questions.withdraw(exchange, collection, rest.get(0));
            }
        } else {
            throw notFound();
        }
    }

    private AskedDocument asked() {
        return new AskedDocument(vacancy, exposure, mostKeys);
    }

    private static void only(Exchange exchange, String... methods) {
        if (!List.of(methods).contains(exchange.method())) {
            throw new ProblemException(405, "method", "Only " + String.join(" and ", methods) + " can be used here.")
                    .header("Allow", String.join(", ", methods));
        }
    }

    private static ProblemException notFound() {
        return new ProblemException(404, "not-found", "There is nothing at this address.");
    }

    /** What is told of a failure: of misuse all, of the database nothing but that it failed. */
    private static ProblemException problem(RuntimeException failed) {
        if (failed instanceof MisuseException misuse) {
            String hint = misuse.hint();
            return new ProblemException(
                    400, "malformed", Objects.requireNonNull(misuse.getMessage()) + (hint == null ? "" : " " + hint));
        }
        if (failed instanceof BusyException
                || failed instanceof CancelledException
                || failed instanceof TransactionLostException) {
            return new ProblemException(503, "busy", told(failed)).header("Retry-After", "1");
        }
        String mark = UUID.randomUUID().toString();
        LOG.error("failed, {}", mark, failed);
        return new ProblemException(
                500, "failed", "It failed; the log of the application says more under " + mark + ".");
    }

    private static String told(RuntimeException failed) {
        @Nullable String hint = failed instanceof VacancyException known ? known.hint() : null;
        return failed.getMessage() + (hint == null ? "" : " " + hint);
    }
}
