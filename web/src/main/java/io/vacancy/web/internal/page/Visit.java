// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.page;

import io.vacancy.Vacancy;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.QuestionId;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.web.Exposed;
import io.vacancy.web.Exposure;
import io.vacancy.web.internal.http.Exchange;
import io.vacancy.web.internal.http.ProblemException;
import io.vacancy.web.internal.resource.AskedDocument;
import io.vacancy.web.internal.resource.ResourceCollection;
import io.vacancy.web.page.Page;
import io.vacancy.web.page.PageTexts;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** One request of one person for the pages. */
public final class Visit {

    private static final Logger LOG = LoggerFactory.getLogger(Visit.class);
    private static final int MOST_KEYS = 1_000;
    private static final int MOST_ROWS = 500;
    private static final Map<String, String> ASSETS = Map.of("pages.css", "text/css", "pages.js", "text/javascript");

    private final PageSettings settings;

    private final HttpServletRequest request;
    private final HttpServletResponse response;
    /** What was sent, or null where the container could not or would not read it. */
    private final @Nullable Map<String, String[]> sent;

    private final Map<String, String[]> fields;
    private final String base;
    private final List<String> path;

    public Visit(PageSettings settings, HttpServletRequest request, HttpServletResponse response) {
        this.settings = settings;
        this.request = request;
        this.response = response;
        this.sent = sent(request);
        this.fields = sent == null ? Map.of() : sent;
        this.base = request.getContextPath() + request.getServletPath();
        String rest = request.getPathInfo();
        this.path = rest == null
                ? List.of()
                : Arrays.stream(rest.split("/", -1))
                        .filter(part -> !part.isEmpty())
                        .toList();
    }

    private static @Nullable Map<String, String[]> sent(HttpServletRequest request) {
        try {
            return request.getParameterMap();
        } catch (RuntimeException unreadable) {
            LOG.debug("a form could not be read", unreadable);
            return null;
        }
    }

    @Nullable
    String field(String name) {
        String[] values = fields.get(name);
        return values == null || values.length == 0 ? null : values[0];
    }

    /** Answers it. */
    public void serve() throws IOException {
        if (path.size() == 2 && path.get(0).equals("assets")) {
            asset(path.get(1));
            return;
        }
        try {
            if (settings.limit().waitFor(request) != null) {
                throw new ProblemException(429, "too-often", models().frame().say("wrong.too-often"));
            }
            if (sent == null) {
                Exchange.drain(request);
                throw new ProblemException(413, "too-large", models().frame().say("wrong.too-large"));
            }
            handle();
        } catch (ProblemException problem) {
            String key = "wrong." + problem.kind();
            boolean known = models().frame().texts().has(key);
            send(problem.status(), models().wrong(known ? key : "wrong.title", String.valueOf(problem.getMessage())));
        } catch (MisuseException misuse) {
            send(400, models().wrong("wrong.title", String.valueOf(misuse.getMessage())));
        } catch (RuntimeException failed) {
            String mark = UUID.randomUUID().toString();
            LOG.error("failed, {}", mark, failed);
            send(500, models().wrong("wrong.title", models().frame().say("wrong.failed", mark)));
        }
    }

    private void handle() throws IOException {
        boolean post = request.getMethod().equals("POST");
        boolean get = request.getMethod().equals("GET");
        ResourceCollection collection = path.size() == 2 ? ResourceCollection.at(path.get(0)) : null;
        if (!path.isEmpty() && path.get(0).equals(ApprovalVisit.AT) && (get || post)) {
            new ApprovalVisit(this, path).handle(post);
        } else if (path.equals(List.of("ask")) && post) {
            ask();
        } else if (path.size() == 3 && path.get(2).equals("diagram.svg") && get) {
            diagram(path.get(0), path.get(1));
        } else if (path.size() == 3 && path.get(2).equals("rows") && get) {
            rows(path.get(0), path.get(1));
        } else if (collection != null && get) {
            show(question(collection, path.get(1)), collection);
        } else if (collection != null && post) {
            answer(question(collection, path.get(1)), collection);
        } else if (path.size() == 2 && path.get(0).equals("named") && get) {
            named(path.get(1));
        } else {
            throw new ProblemException(404, "not-found", models().frame().say("wrong.not-found.message"));
        }
    }

    Vacancy vacancy() {
        return settings.vacancy();
    }

    Exposure exposure() {
        return settings.exposure();
    }

    String base() {
        return base;
    }

    void wantsToken() {
        boolean elsewhere = "cross-site".equals(request.getHeader("Sec-Fetch-Site"));
        if (elsewhere
                || !settings.token().accepts(field("token"), settings.actor().get())) {
            throw new ProblemException(403, "token", models().frame().say("wrong.token.message"));
        }
    }

    private void ask() throws IOException {
        wantsToken();
        AskedForm form = new AskedForm(fields);
        Request asked = asked().read(form.document(), form.collection());
        Preview preview = settings.vacancy().preview(asked);
        String refusal = preview.state() == Preview.State.READY
                ? settings.vacancy().questions().refusal(preview).orElse(null)
                : null;
        if (refusal != null) {
            throw new ProblemException(403, "refused", refusal);
        }
        if (preview.state() == Preview.State.READY) {
            seeOther(settings.vacancy().questions().open(preview), "");
        } else {
            boolean skippable = preview.state() == Preview.State.BLOCKED;
            Page.Stopped page = models().stopped(preview, skippable ? form.skipping() : Map.of());
            send(page.status(), page);
        }
    }

    private void show(OpenQuestion question, ResourceCollection collection) throws IOException {
        if (question.state() == State.OPEN) {
            Preview preview = settings.vacancy().preview(question.request().withoutId());
            if (!preview.fingerprint().equals(question.fingerprint())) {
                // A GET keeps nothing; whoever wants to go on asks anew.
                send(200, models().changed(address(question)));
                return;
            }
            boolean wrong = field("wrong") != null && question.wrongAnswers() > 0;
            boolean anew = field("anew") != null;
            send(200, models().confirm(question, address(question), preview, wrong, anew, settings.diagrams() != null));
            return;
        }
        Receipt receipt = question.receipt() == null
                ? null
                : settings.vacancy().receipt(question.receipt()).orElse(null);
        if (receipt == null) {
            send(question.state() == State.EXPIRED ? 410 : 200, models().over(question));
        } else {
            boolean restorable = collection == ResourceCollection.DELETIONS
                    && (receipt.archived() || receipt.operation() == OperationKind.SOFT_DELETE)
                    && receipt.selectedFrom().stream()
                            .allMatch(table -> settings.exposure().opens(table, Exposed.RESTORE));
            send(200, models().done(receipt, restorable));
        }
    }

    /** What was shown is something else by now, and is shown anew. */
    private void anew(Preview now) throws IOException {
        if (now.state() == Preview.State.READY) {
            seeOther(settings.vacancy().questions().open(now), "&anew");
        } else {
            Page.Stopped page = models().stopped(now, Map.of());
            send(page.status(), page);
        }
    }

    private void answer(OpenQuestion question, ResourceCollection collection) throws IOException {
        wantsToken();
        if ("again".equals(field("choice"))) {
            anew(settings.vacancy().preview(question.request().withoutId()));
            return;
        }
        if (!"yes".equals(field("choice"))) {
            settings.vacancy().questions().withdraw(question.id());
            seeOther(back());
            return;
        }
        String text = field("text");
        Outcome outcome = settings.vacancy()
                .questions()
                .answer(question.id(), text == null ? "yes" : text)
                .orElse(null);
        if (outcome == null || outcome instanceof Outcome.Done || outcome instanceof Outcome.Waiting) {
            seeOther(question, "");
        } else if (outcome instanceof Outcome.Declined) {
            seeOther(question, "&wrong");
        } else if (outcome instanceof Outcome.Changed) {
            anew(settings.vacancy().preview(question.request().withoutId()));
        } else {
            Preview preview = outcome instanceof Outcome.Blocked blocked ? blocked.preview() : null;
            Page.Stopped page = models().stopped(outcome, preview, Map.of());
            send(page.status(), page);
        }
    }

    private void diagram(String of, String id) throws IOException {
        ResourceCollection collection = ResourceCollection.at(of);
        Function<Preview, String> diagrams = settings.diagrams();
        if (collection == null || diagrams == null) {
            throw new ProblemException(404, "not-found", models().frame().say("wrong.not-found.message"));
        }
        Request request = question(collection, id).request().withoutId();
        byte[] svg = diagrams.apply(settings.vacancy().preview(request)).getBytes(StandardCharsets.UTF_8);
        response.setContentType("image/svg+xml");
        // As an image it runs nothing; its own styles stand in it.
        response.setHeader("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'");
        response.getOutputStream().write(svg);
    }

    /** Whoever is asked may look at the rows themselves before they dare. */
    private void rows(String of, String id) throws IOException {
        ResourceCollection collection = ResourceCollection.at(of);
        if (collection != ResourceCollection.DELETIONS) {
            throw new ProblemException(404, "not-found", models().frame().say("wrong.not-found.message"));
        }
        OpenQuestion question = question(collection, id);
        rows(question, address(question));
    }

    /** The rows that a question is about, as far as they are shown. */
    void rows(OpenQuestion question, String address) throws IOException {
        Request asked = question.request().withoutId();
        long all = settings.vacancy().preview(asked).impact().selected();
        try (Stream<Row> rows = settings.vacancy().rows(asked)) {
            send(200, models().rows(address, rows.limit(MOST_ROWS).toList(), all));
        }
    }

    private void named(String name) throws IOException {
        if (!settings.exposure().opensDeletion(name)) {
            throw new ProblemException(404, "not-found", models().frame().say("wrong.not-found.message"));
        }
        send(200, models().named(settings.vacancy().rules().deletion(name)));
    }

    private OpenQuestion question(ResourceCollection collection, String id) {
        OpenQuestion question = QuestionId.fits(id)
                ? settings.vacancy().questions().find(new QuestionId(id)).orElse(null)
                : null;
        if (question == null || ResourceCollection.of(question.request().operation()) != collection) {
            throw new ProblemException(404, "not-found", models().frame().say("wrong.not-found.message"));
        }
        asked().wantsOpen(question.request(), question.request().deletion() != null);
        return question;
    }

    private AskedDocument asked() {
        return new AskedDocument(settings.vacancy(), settings.exposure(), MOST_KEYS);
    }

    private String address(OpenQuestion question) {
        return base + "/"
                + ResourceCollection.of(question.request().operation()).path() + "/"
                + question.id().value();
    }

    private void seeOther(OpenQuestion question, String further) {
        seeOther(address(question) + "?back=" + URLEncoder.encode(back(), StandardCharsets.UTF_8) + further);
    }

    void seeOther(String address) {
        response.setStatus(HttpServletResponse.SC_SEE_OTHER);
        response.setHeader("Location", address);
    }

    /** An address of the same site, whatever was sent. */
    private String back() {
        String back = field("back");
        return back != null && back.matches("/(?![/\\\\])[\\x21-\\x7e&&[^\\\\]]*") ? back : base + "/";
    }

    PageModels models() {
        PageTexts texts = PageTexts.of(settings.texts(), request.getLocale(), settings.loader());
        return new PageModels(
                settings.vacancy(),
                new Page.Frame(texts, base, settings.token().of(settings.actor().get()), back()));
    }

    void send(int status, Page page) throws IOException {
        StringBuilder html = new StringBuilder();
        settings.renderer().render(page, html);
        byte[] bytes = html.toString().getBytes(StandardCharsets.UTF_8);
        response.setStatus(status);
        response.setContentType("text/html;charset=UTF-8");
        response.setHeader("Content-Language", page.frame().texts().language());
        response.setContentLength(bytes.length);
        response.getOutputStream().write(bytes);
    }

    private void asset(String name) throws IOException {
        String type = ASSETS.get(name);
        try (@Nullable
                InputStream in =
                        type == null ? null : Visit.class.getResourceAsStream("/io/vacancy/web/assets/" + name)) {
            if (in == null) {
                response.setStatus(HttpServletResponse.SC_NOT_FOUND);
                return;
            }
            response.setContentType(type + ";charset=UTF-8");
            response.setHeader("Cache-Control", "max-age=3600");
            in.transferTo(response.getOutputStream());
        }
    }
}
