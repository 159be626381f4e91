// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import io.vacancy.diagram.Diagram.Arrow;
import io.vacancy.diagram.Diagram.Box;
import io.vacancy.diagram.Diagram.Look;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A preview as a diagram: every table on which it has an effect, and what stands in the way. */
public final class PreviewDiagram {

    private static final int LONGEST_REASON = 36;

    private final Preview preview;
    private final ResolvedRules rules;
    private final Map<TableName, List<String>> lines = new LinkedHashMap<>();
    private final Map<TableName, Look> looks = new LinkedHashMap<>();
    private final List<Arrow> arrows = new ArrayList<>();

    private PreviewDiagram(Preview preview, ResolvedRules rules) {
        this.preview = preview;
        this.rules = rules;
    }

    /**
     * Draws a preview.
     *
     * @param rules those that it was made by
     */
    public static Diagram of(Preview preview, ResolvedRules rules) {
        return new PreviewDiagram(preview, rules).diagram();
    }

    private Diagram diagram() {
        touch(preview.table(), Look.PLAIN);
        preview.effects().forEach(this::effect);
        preview.blockers().forEach(this::blocker);
        if (preview.skipped().rows() > 0) {
            line(preview.table(), CountText.grouped(preview.skipped().rows()) + " skipped");
        }
        List<Box> boxes = new ArrayList<>();
        looks.forEach(
                (table, look) -> boxes.add(new Box(table.toString(), lines.getOrDefault(table, List.of()), look)));
        return new Diagram(title(), notes(), boxes, arrows);
    }

    private String title() {
        String what = preview.effects().isEmpty() ? "Rows of " + preview.table() : preview.title();
        return what
                + switch (preview.state()) {
                    case READY -> "";
                    case BLOCKED -> ": blocked";
                    case NOTHING -> ": nothing is selected";
                    case REFUSED -> ": refused";
                };
    }

    private List<String> notes() {
        List<String> notes = new ArrayList<>();
        if (preview.refusal() != null) {
            notes.add(preview.refusal());
        }
        for (Blocker blocker : preview.blockers()) {
            notes.add("! Blocked by " + blocker.table() + (blocker.relation() == null ? ", since " : " ")
                    + blocker.message() + ".");
        }
        preview.skippedBy()
                .forEach(skipping -> notes.add(CountText.rows(skipping.rows()) + " skipped because of "
                        + skipping.relation() + ": " + skipping.reason() + "."));
        notes.addAll(preview.warnings());
        return notes;
    }

    private void effect(Effect effect) {
        Look look = effect.relation() == null && effect.goes() ? Look.SELECTED : look(effect.action());
        touch(effect.table(), look);
        boolean among =
                look == Look.SELECTED && !preview.impact().selectedFrom().isEmpty();
        line(effect.table(), CountText.grouped(effect.rows()) + " " + words(effect) + (among ? ", selected" : ""));
        if (effect.relation() != null) {
            Relation relation = rules.schema().relation(effect.relation());
            boolean erased = preview.totals().containsKey(Action.SOFT_DELETE) && effect.action() == Action.DELETE;
            String rule = erased
                    ? "erase"
                    : effect.goes() ? "cascade" : effect.action().word();
            arrow(relation, rule + " × " + CountText.grouped(effect.rows()), look);
        }
    }

    private static Look look(Action action) {
        return switch (action) {
            case DELETE, SOFT_DELETE, RESTORE, REPLACE, PURGE, DROP -> Look.GOES;
            case SET_NULL -> Look.SET_NULL;
            case REASSIGN, RELINK -> Look.REASSIGN;
            case BLANK, KEEP, PUT_BACK -> Look.BLANK;
        };
    }

    private static String words(Effect effect) {
        boolean one = effect.rows() == 1;
        return switch (effect.action()) {
            case DELETE -> "deleted";
            case SOFT_DELETE -> "marked";
            case RESTORE -> "restored";
            case REPLACE -> "ends, and a successor begins";
            case PURGE -> "purged";
            case DROP -> "dropped";
            case RELINK -> one ? "gets its link back" : "get their link back";
            case BLANK -> "blanked";
            case KEEP -> "kept";
            case PUT_BACK -> "no longer blank";
            case SET_NULL -> one ? "loses its link" : "lose their link";
            case REASSIGN -> (one ? "moves to " : "move to ") + effect.becomes();
        };
    }

    private void blocker(Blocker blocker) {
        touch(blocker.table(), Look.BLOCKS);
        String many = blocker.rows() == 0 ? "rows" : CountText.grouped(blocker.rows());
        line(blocker.table(), "! " + many + (blocker.rows() == 1 ? " blocks" : " block"));
        String reason = blocker.reason();
        line(
                blocker.table(),
                reason.length() <= LONGEST_REASON ? reason : reason.substring(0, LONGEST_REASON - 1) + "…");
        if (blocker.relation() != null) {
            arrow(rules.schema().relation(blocker.relation()), "block", Look.BLOCKS);
        }
    }

    private void arrow(Relation relation, String rule, Look look) {
        touch(relation.parent(), Look.PLAIN);
        String columns = String.join(", ", relation.childColumns());
        arrows.add(new Arrow(relation.parent().toString(), relation.child().toString(), List.of(rule, columns), look));
    }

    private void line(TableName table, String line) {
        lines.computeIfAbsent(table, name -> new ArrayList<>()).add(line);
    }

    /** Of several things that happen to rows of a table, the gravest shows. */
    private void touch(TableName table, Look look) {
        looks.merge(table, look, (old, more) -> more.compareTo(old) > 0 ? more : old);
    }
}
