// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.question.OpenQuestion;
import java.util.ArrayList;
import java.util.List;

/** What waits for an approval. */
public final class WaitingScreen {

    private final TextLayout layout;
    private final AnsiStyle style;

    public WaitingScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    public List<String> lines(List<OpenQuestion> waiting) {
        List<String> lines = new ArrayList<>();
        if (waiting.isEmpty()) {
            lines.add("Nothing waits for your approval.");
            return lines;
        }
        lines.add(style.strong("Waiting for an approval"));
        for (OpenQuestion question : waiting) {
            String reason = question.request().reason();
            lines.add("");
            lines.add("  " + style.standing(question.id().value()));
            TextTable facts = new TextTable(false, false);
            facts.line().cell("asks", style::quiet).cell(question.question().title());
            facts.line().cell("by", style::quiet).cell(question.by() + ", " + LocalTime.seconds(question.askedAt()));
            if (reason != null) {
                facts.line().cell("because", style::quiet).cell(reason);
            }
            facts.line().cell("until", style::quiet).cell(LocalTime.seconds(question.expiresAt()));
            lines.addAll(facts.lines("    ", layout));
        }
        return lines;
    }

    /** Who asked for it, when and why. */
    public static String asked(OpenQuestion question) {
        String reason = question.request().reason();
        return "Asked for by " + question.by() + ", " + LocalTime.seconds(question.askedAt())
                + (reason == null ? "." : ", because: " + reason + ".");
    }
}
