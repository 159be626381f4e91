// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import io.vacancy.Vacancy;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.preview.Preview;
import io.vacancy.web.internal.page.FormToken;
import io.vacancy.web.internal.page.JteRenderer;
import io.vacancy.web.internal.page.PageSettings;
import io.vacancy.web.internal.page.Visit;
import io.vacancy.web.page.PageRenderer;
import io.vacancy.web.page.PageTexts;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.security.SecureRandom;
import java.time.Clock;
import java.util.function.Function;
import java.util.function.Supplier;

/**
 * Pages that ask people: what would be deleted, yes or no, and what was done. To be mounted at a path of the application, behind
 * its authentication: {@code context.addServlet(new ServletHolder(pages), "/deletions/*")}.
 *
 * <p>A list of the application sends a form by POST to {@code ask} under that path: {@code table}, a {@code key} for each row that
 * is ticked, {@code back}, the address to come back to, and {@code token}, which {@link #token} gives. The pages do without
 * scripts. Serves all threads.
 */
public final class DeletionPages extends HttpServlet {

    private static final int LEAST_KEY = 16;

    /** No scripts at all, and nothing of other sites. */
    private static final String POLICY = "default-src 'none'; style-src 'self'; img-src 'self'; form-action 'self';"
            + " base-uri 'none'; frame-ancestors 'none'";

    private final transient PageSettings settings;

    private DeletionPages(PageSettings settings) {
        this.settings = settings;
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
        return new DeletionPages(new PageSettings(
                vacancy,
                Arguments.notNull(actor, "actor"),
                exposure,
                new JteRenderer(),
                PageTexts.USUAL,
                loader,
                token,
                RateLimit.NONE,
                null));
    }

    /** The same with pages of the application's own. */
    public DeletionPages renderer(PageRenderer own) {
        return new DeletionPages(settings.with(Arguments.notNull(own, "own")));
    }

    /**
     * The same with texts of the application's own.
     *
     * @param bundle the base name of a resource bundle that has all keys of {@link PageTexts#USUAL}
     * @param loader that finds it
     */
    public DeletionPages texts(String bundle, ClassLoader loader) {
        Arguments.notBlank(bundle, "bundle");
        return new DeletionPages(settings.with(bundle, Arguments.notNull(loader, "loader")));
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
        return new DeletionPages(settings.with(new FormToken(secret.clone(), Clock.systemUTC())));
    }

    /** The same that asks before each request whether it comes too soon. */
    public DeletionPages rateLimit(RateLimit limit) {
        return new DeletionPages(settings.with(Arguments.notNull(limit, "limit")));
    }

    /**
     * The same that shows each question as a diagram as well.
     *
     * @param svg draws one, such as {@code preview -> Drawing.SVG.of(PreviewDiagram.of(preview, vacancy.rules()))}
     */
    public DeletionPages diagrams(Function<Preview, String> svg) {
        return new DeletionPages(settings.with(Arguments.notNull(svg, "svg")));
    }

    /** What forms that are sent here carry as {@code token}, for whoever asks on this thread. */
    public String token() {
        return settings.token().of(settings.actor().get());
    }

    @Override
    protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
        response.setHeader("Content-Security-Policy", POLICY);
        response.setHeader("X-Content-Type-Options", "nosniff");
        response.setHeader("Referrer-Policy", "same-origin");
        response.setHeader("Cache-Control", "no-store");
        new Visit(settings, request, response).serve();
    }
}
