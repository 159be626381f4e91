// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.page;

import io.vacancy.Vacancy;
import io.vacancy.preview.Preview;
import io.vacancy.web.Exposure;
import io.vacancy.web.RateLimit;
import io.vacancy.web.page.PageRenderer;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * What an application has said of its pages.
 *
 * @param actor who asks, on the thread of a request
 * @param texts the base name of a resource bundle
 * @param loader that finds it
 * @param diagrams draws a preview as SVG; null for no diagrams
 */
public record PageSettings(
        Vacancy vacancy,
        Supplier<String> actor,
        Exposure exposure,
        PageRenderer renderer,
        String texts,
        ClassLoader loader,
        FormToken token,
        RateLimit limit,
        @Nullable Function<Preview, String> diagrams) {

    public PageSettings with(PageRenderer other) {
        return new PageSettings(vacancy, actor, exposure, other, texts, loader, token, limit, diagrams);
    }

    public PageSettings with(String bundle, ClassLoader from) {
        return new PageSettings(vacancy, actor, exposure, renderer, bundle, from, token, limit, diagrams);
    }

    public PageSettings with(FormToken other) {
        return new PageSettings(vacancy, actor, exposure, renderer, texts, loader, other, limit, diagrams);
    }

    public PageSettings with(RateLimit other) {
        return new PageSettings(vacancy, actor, exposure, renderer, texts, loader, token, other, diagrams);
    }

    public PageSettings with(Function<Preview, String> drawing) {
        return new PageSettings(vacancy, actor, exposure, renderer, texts, loader, token, limit, drawing);
    }
}
