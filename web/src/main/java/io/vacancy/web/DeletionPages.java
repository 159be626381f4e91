// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import io.vacancy.Vacancy;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.QuestionId;
import io.vacancy.request.Request;
import io.vacancy.web.internal.http.ProblemException;
import io.vacancy.web.internal.page.AskedForm;
import io.vacancy.web.internal.page.FormToken;
import io.vacancy.web.internal.page.JteRenderer;
import io.vacancy.web.internal.page.PageModels;
import io.vacancy.web.internal.resource.AskedDocument;
import io.vacancy.web.internal.resource.Collection;
import io.vacancy.web.page.Page;
import io.vacancy.web.page.PageRenderer;
import io.vacancy.web.page.PageTexts;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.time.Clock;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Pages that ask people: what would be deleted, yes or no, and what was done. To be mounted at a path of the application, behind
 * its authentication: {@code context.addServlet(new ServletHolder(pages), "/deletions/*")}.
 *
 * <p>A list of the application sends a form by POST to {@code ask} under that path: {@code table}, a {@code key} for each row that
 * is ticked, {@code back}, the address to come back to, and {@code token}, which {@link #token} gives. The pages do without
 * scripts. Serves all threads.
 */
public final class DeletionPages extends HttpServlet {

    private static final Logger LOG = LoggerFactory.getLogger(DeletionPages.class);
    private static final int MOST_KEYS = 1_000;
    private static final int LEAST_KEY = 16;

    private static final Map<String, String> ASSETS = Map.of("pages.css", "text/css", "pages.js", "text/javascript");

    /** No scripts at all, and nothing of other sites. */
    private static final String POLICY = "default-src 'none'; style-src 'self'; img-src 'self'; form-action 'self';"
            + " base-uri 'none'; frame-ancestors 'none'";

    private final transient Vacancy vacancy;
    private final transient Supplier<String> actor;
    private final transient Exposure exposure;
    private final transient Look look;

    /** @param diagrams draws a preview as SVG; null for no diagrams */
    private record Look(
            PageRenderer renderer,
            String texts,
            ClassLoader loader,
            FormToken token,
            RateLimit limit,
            @Nullable Function<Preview, String> diagrams) {}

    private DeletionPages(Vacancy vacancy, Supplier<String> actor, Exposure exposure, Look look) {
        this.vacancy = vacancy;
        this.actor = actor;
        this.exposure = exposure;
        this.look = look;
    }

    /**
     * With Vacancy's own look and texts, and with forms that are good on this node until it is restarted.
     *
     * @param actor who asks; the same as the vacancy's
     * @throws MisuseException if something is opened that is not there
     */
    public static DeletionPages of(Vacancy vacancy, Supplier<String> actor, Exposure exposure) {
        Arguments.notNull(exposure, "exposure")
                .fit(Arguments.notNull(vacancy, "vacancy").rules());
        byte[] key = new byte[32];
        new SecureRandom().nextBytes(key);
        FormToken token = new FormToken(key, Clock.systemUTC());
        ClassLoader loader = DeletionPages.class.getClassLoader();
        return new DeletionPages(
                vacancy,
                Arguments.notNull(actor, "actor"),
                exposure,
                new Look(new JteRenderer(), PageTexts.USUAL, loader, token, RateLimit.NONE, null));
    }

    private DeletionPages with(Look other) {
        return new DeletionPages(vacancy, actor, exposure, other);
    }

    /** The same with pages of the application's own. */
    public DeletionPages renderer(PageRenderer own) {
        return with(new Look(
                Arguments.notNull(own, "own"), look.texts, look.loader, look.token, look.limit, look.diagrams));
    }

    /**
     * The same with texts of the application's own.
     *
     * @param bundle the base name of a resource bundle that has all keys of {@link PageTexts#USUAL}
     * @param loader that finds it
     */
    public DeletionPages texts(String bundle, ClassLoader loader) {
        Arguments.notBlank(bundle, "bundle");
        return with(new Look(
                look.renderer, bundle, Arguments.notNull(loader, "loader"), look.token, look.limit, look.diagrams));
    }

    /**
     * The same whose forms are good on every node with the same secret, and after a restart.
     *
     * @param secret at least 16 bytes; copied
     */
    public DeletionPages formKey(byte[] secret) {
        if (Arguments.notNull(secret, "secret").length < LEAST_KEY) {
            throw new MisuseException("A secret for forms has at least " + LEAST_KEY + " bytes.");
        }
        FormToken token = new FormToken(secret.clone(), Clock.systemUTC());
        return with(new Look(look.renderer, look.texts, look.loader, token, look.limit, look.diagrams));
    }

    /** The same that asks before each request whether it comes too soon. */
    public DeletionPages rateLimit(RateLimit limit) {
        return with(new Look(
                look.renderer, look.texts, look.loader, look.token, Arguments.notNull(limit, "limit"), look.diagrams));
    }

    /**
     * The same that shows each question as a diagram as well.
     *
     * @param svg draws one, such as {@code preview -> Drawing.SVG.of(PreviewDiagram.of(preview, vacancy.rules()))}
     */
    public DeletionPages diagrams(Function<Preview, String> svg) {
        return with(new Look(
                look.renderer, look.texts, look.loader, look.token, look.limit, Arguments.notNull(svg, "svg")));
    }

    /** What forms that are sent here carry as {@code token}, for whoever asks on this thread. */
    public String token() {
        return look.token.of(actor.get());
    }

    @Override
    protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
        response.setHeader("Content-Security-Policy", POLICY);
        response.setHeader("X-Content-Type-Options", "nosniff");
        response.setHeader("Referrer-Policy", "same-origin");
        response.setHeader("Cache-Control", "no-store");
        new Visit(request, response).serve();
    }

    /** One request of one person. */
    private final class Visit {

        private final HttpServletRequest request;
        private final HttpServletResponse response;
        private final String base;
        private final List<String> path;

        Visit(HttpServletRequest request, HttpServletResponse response) {
            this.request = request;
            this.response = response;
            this.base = request.getContextPath() + request.getServletPath();
            String rest = request.getPathInfo();
            this.path = rest == null
                    ? List.of()
                    : Arrays.stream(rest.split("/", -1))
                            .filter(part -> !part.isEmpty())
                            .toList();
        }

        void serve() throws IOException {
            if (path.size() == 2 && path.get(0).equals("assets")) {
                asset(path.get(1));
                return;
            }
            try {
                if (look.limit.waitFor(request) != null) {
                    throw new ProblemException(
                            429, "too-often", models().frame().say("wrong.too-often"));
                }
                handle();
            } catch (ProblemException problem) {
                String key = "wrong." + problem.kind();
                boolean known = models().frame().texts().has(key);
                send(
                        problem.status(),
                        models().wrong(known ? key : "wrong.title", String.valueOf(problem.getMessage())));
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
            Collection collection = path.size() == 2 ? Collection.at(path.get(0)) : null;
            if (path.equals(List.of("ask")) && post) {
                ask();
            } else if (path.size() == 3 && path.get(2).equals("diagram.svg") && get) {
                diagram(path.get(0), path.get(1));
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

        private void wantsToken() {
            boolean elsewhere = "cross-site".equals(request.getHeader("Sec-Fetch-Site"));
            if (elsewhere || !look.token.accepts(request.getParameter("token"), actor.get())) {
                throw new ProblemException(403, "token", models().frame().say("wrong.token.message"));
            }
        }

        private void ask() throws IOException {
            wantsToken();
            AskedForm form = new AskedForm(request.getParameterMap());
            Request asked = asked().read(form.document(), form.collection());
            Preview preview = vacancy.preview(asked);
            String refusal = preview.state() == Preview.State.READY
                    ? vacancy.questions().refusal(preview).orElse(null)
                    : null;
            if (refusal != null) {
                throw new ProblemException(403, "refused", refusal);
            }
            if (preview.state() == Preview.State.READY) {
                seeOther(vacancy.questions().open(preview), "");
            } else {
                boolean skippable = preview.state() == Preview.State.BLOCKED;
                Page.Stopped page = models().stopped(preview, skippable ? form.skipping() : Map.of());
                send(page.status(), page);
            }
        }

        private void show(OpenQuestion question, Collection collection) throws IOException {
            if (question.state() == State.OPEN) {
                Preview preview = vacancy.preview(question.request().withoutId());
                if (!preview.fingerprint().equals(question.fingerprint())) {
                    anew(preview);
                    return;
                }
                boolean wrong = request.getParameter("wrong") != null && question.wrongAnswers() > 0;
                boolean anew = request.getParameter("anew") != null;
                send(200, models().confirm(question, address(question), preview, wrong, anew, look.diagrams != null));
                return;
            }
            Receipt receipt = question.receipt() == null
                    ? null
                    : vacancy.receipt(question.receipt()).orElse(null);
            if (receipt == null) {
                send(question.state() == State.EXPIRED ? 410 : 200, models().over(question));
            } else {
                boolean restorable = collection == Collection.DELETIONS
                        && receipt.archived()
                        && exposure.opens(receipt.table(), Exposed.RESTORE);
                send(200, models().done(receipt, restorable));
            }
        }

        /** What was shown is something else by now, and is shown anew. */
        private void anew(Preview now) throws IOException {
            if (now.state() == Preview.State.READY) {
                seeOther(vacancy.questions().open(now), "&anew");
            } else {
                Page.Stopped page = models().stopped(now, Map.of());
                send(page.status(), page);
            }
        }

        private void answer(OpenQuestion question, Collection collection) throws IOException {
            wantsToken();
            if (!"yes".equals(request.getParameter("choice"))) {
                vacancy.questions().withdraw(question.id());
                response.setStatus(HttpServletResponse.SC_SEE_OTHER);
                response.setHeader("Location", back());
                return;
            }
            String text = request.getParameter("text");
            Outcome outcome = vacancy.questions()
                    .answer(question.id(), text == null ? "yes" : text)
                    .orElse(null);
            if (outcome == null || outcome instanceof Outcome.Done) {
                seeOther(question, "");
            } else if (outcome instanceof Outcome.Declined) {
                seeOther(question, "&wrong");
            } else if (outcome instanceof Outcome.Changed) {
                anew(vacancy.preview(question.request().withoutId()));
            } else {
                Preview preview = outcome instanceof Outcome.Blocked blocked ? blocked.preview() : null;
                Page.Stopped page = models().stopped(outcome, preview, Map.of());
                send(page.status(), page);
            }
        }

        private void diagram(String of, String id) throws IOException {
            Collection collection = Collection.at(of);
            Function<Preview, String> diagrams = look.diagrams;
            if (collection == null || diagrams == null) {
                throw new ProblemException(404, "not-found", models().frame().say("wrong.not-found.message"));
            }
            Request request = question(collection, id).request().withoutId();
            byte[] svg = diagrams.apply(vacancy.preview(request)).getBytes(StandardCharsets.UTF_8);
            response.setContentType("image/svg+xml");
            // As an image it runs nothing; its own styles stand in it.
            response.setHeader("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'");
            response.getOutputStream().write(svg);
        }

        private void named(String name) throws IOException {
            if (!exposure.opensDeletion(name)) {
                throw new ProblemException(404, "not-found", models().frame().say("wrong.not-found.message"));
            }
            send(200, models().named(vacancy.rules().deletion(name)));
        }

        private OpenQuestion question(Collection collection, String id) {
            OpenQuestion question = id.matches("[A-Za-z0-9_-]{20,64}")
                    ? vacancy.questions().find(new QuestionId(id)).orElse(null)
                    : null;
            if (question == null || Collection.of(question.request().operation()) != collection) {
                throw new ProblemException(404, "not-found", models().frame().say("wrong.not-found.message"));
            }
            asked().wantsOpen(question.request(), question.request().deletion() != null);
            return question;
        }

        private AskedDocument asked() {
            return new AskedDocument(vacancy, exposure, MOST_KEYS);
        }

        private String address(OpenQuestion question) {
            return base + "/" + Collection.of(question.request().operation()).path() + "/"
                    + question.id().value();
        }

        private void seeOther(OpenQuestion question, String further) {
            response.setStatus(HttpServletResponse.SC_SEE_OTHER);
            response.setHeader(
                    "Location",
                    address(question) + "?back=" + URLEncoder.encode(back(), StandardCharsets.UTF_8) + further);
        }

        /** An address of the same site, whatever was sent. */
        private String back() {
            String back = request.getParameter("back");
            return back != null && back.matches("/(?![/\\\\])[\\x21-\\x7e&&[^\\\\]]*") ? back : base + "/";
        }

        private PageModels models() {
            PageTexts texts = PageTexts.of(look.texts, request.getLocale(), look.loader);
            return new PageModels(vacancy, new Page.Frame(texts, base, token(), back()));
        }

        private void send(int status, Page page) throws IOException {
            StringBuilder html = new StringBuilder();
            look.renderer.render(page, html);
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
                    InputStream in = type == null
                            ? null
                            : DeletionPages.class.getResourceAsStream("/io/vacancy/web/assets/" + name)) {
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
}
