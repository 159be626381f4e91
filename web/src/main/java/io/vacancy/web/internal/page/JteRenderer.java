// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.page;

import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import gg.jte.TemplateOutput;
import io.vacancy.web.page.Page;
import io.vacancy.web.page.PageRenderer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Locale;

/** The pages that Vacancy brings, by templates that escape every text. */
public final class JteRenderer implements PageRenderer {

    private static final String TEMPLATES = "io.vacancy.web.internal.template";

    private final TemplateEngine engine =
            TemplateEngine.createPrecompiled(null, ContentType.Html, JteRenderer.class.getClassLoader(), TEMPLATES);

    @Override
    public void render(Page page, Appendable out) throws IOException {
        String template = page.getClass().getSimpleName().toLowerCase(Locale.ROOT) + ".jte";
        try {
            engine.render(template, page, new Appending(out));
        } catch (UncheckedIOException failed) {
            throw failed.getCause();
        }
    }

    private record Appending(Appendable out) implements TemplateOutput {

        @Override
        public void writeContent(String value) {
            try {
                out.append(value);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }

        @Override
        public void writeContent(String value, int begin, int end) {
            try {
                out.append(value, begin, end);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }
    }
}
