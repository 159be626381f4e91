// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.preview.CountText;
import io.vacancy.trail.Certificate;
import io.vacancy.trail.TrailEntry.Kind;
import java.util.ArrayList;
import java.util.List;

/** What was done when a person was forgotten, and what is left of it. */
public final class CertificateScreen {

    private final TextLayout layout;
    private final AnsiStyle style;

    public CertificateScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    /** @param database engine and address, without secrets */
    public List<String> lines(Certificate certificate, String database) {
        List<String> lines = new ArrayList<>();
        lines.add(style.strong("Certificate: " + certificate.table()
                + (certificate.person().isEmpty()
                        ? ""
                        : " " + certificate.person().get(0)) + " was forgotten"));
        lines.add("");
        TextTable done = new TextTable(true, false, false, false);
        for (Certificate.Line line : certificate.lines()) {
            done.line()
                    .cell(CountText.grouped(line.rows()))
                    .cell(OutcomeScreen.did(line.action()) + line.table())
                    .cell(line.relation() == null ? "" : "through " + line.relation(), style::quiet)
                    .cell(line.becomes() == null ? "" : line.becomes(), style::quiet);
        }
        lines.addAll(done.lines("  ", layout));
        lines.add("");
        FactTable facts = new FactTable(layout);
        facts.add("receipt", certificate.receipt().value());
        facts.add("database", database);
        facts.add("at", LocalTime.seconds(certificate.at()));
        facts.add("by", certificate.by());
        facts.add("on behalf of", certificate.onBehalfOf());
        facts.add("approved by", certificate.approvedBy());
        facts.add("because", certificate.because());
        facts.add("copies", copies(certificate));
        for (Certificate.Later later : certificate.later()) {
            facts.add(
                    later.kind() == Kind.RESTORE ? "restored" : later.kind() == Kind.PURGE ? "purged" : "key destroyed",
                    LocalTime.seconds(later.at()) + " by " + later.by());
        }
        facts.add("issued", LocalTime.seconds(certificate.issued()));
        lines.addAll(facts.lines("  "));
        if (certificate.restored()) {
            lines.add("");
            lines.add(style.standing("Something of it was restored since, so this does not tell how things are now."));
        }
        return lines;
    }

    private static String copies(Certificate certificate) {
        if (certificate.copies() == 0) {
            return "none in the archive";
        }
        return CountText.archivedRows(certificate.copies())
                + (certificate.copiesUntil() == null
                        ? ", until they are purged"
                        : ", until " + LocalTime.seconds(certificate.copiesUntil()));
    }
}
