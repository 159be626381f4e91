// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.page;

import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import gg.jte.output.StringOutput;
import io.vacancy.internal.argument.Arguments;
import java.util.List;
import java.util.Map;

/**
 * The parts that Vacancy's pages are made of, as HTML, for templates of an application's own: a {@link PageRenderer} puts them
 * where it wants them. Every text in them is escaped; they stand in a page as they are. Serves all threads.
 */
public final class PageParts {

    private static final TemplateEngine TEMPLATES = TemplateEngine.createPrecompiled(
            null, ContentType.Html, PageParts.class.getClassLoader(), "io.vacancy.web.internal.template");

    private PageParts() {}

    /** A row with all its columns. */
    public static String record(Page.ShownRow row) {
        return part("record", Map.of("row", Arguments.notNull(row, "row")));
    }

    /** What happens, as a tree with counts and a few rows. */
    public static String effects(Page.Frame frame, List<Page.ShownEffect> effects) {
        Arguments.noneNull(effects, "effects");
        return part("effects", Map.of("frame", Arguments.notNull(frame, "frame"), "effects", effects));
    }

    /** What blocks it, with reasons and a few rows. */
    public static String blockers(Page.Frame frame, List<Page.ShownBlocker> blockers) {
        Arguments.noneNull(blockers, "blockers");
        return part("blockers", Map.of("frame", Arguments.notNull(frame, "frame"), "blockers", blockers));
    }

    /** The question, with no, yes, and what has to be typed. */
    public static String answer(Page.Confirm page) {
        return part("answer", Map.of("page", Arguments.notNull(page, "page")));
    }

    private static String part(String name, Map<String, Object> of) {
        StringOutput html = new StringOutput();
        TEMPLATES.render(name + ".jte", of, html);
        return html.toString();
    }
}
