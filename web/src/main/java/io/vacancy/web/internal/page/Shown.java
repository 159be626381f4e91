// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.page;

import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.web.page.Page.Frame;
import io.vacancy.web.page.Page.ShownBlocker;
import io.vacancy.web.page.Page.ShownEffect;
import io.vacancy.web.page.Page.ShownRow;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Turns what a preview or a receipt tells into what a page shows. */
record Shown(ResolvedRules rules, Frame frame) {

    ShownRow row(Row row) {
        Map<String, String> values = new LinkedHashMap<>();
        row.values().forEach((column, value) -> values.put(column, value == null ? "–" : value.toString()));
        return new ShownRow(rules.label(row), values);
    }

    List<ShownRow> rows(List<Row> rows) {
        boolean several = rows.stream().map(Row::table).distinct().count() > 1;
        return rows.stream()
                .map(row -> {
                    ShownRow shown = row(row);
                    return several ? new ShownRow(row.table() + " " + shown.label(), shown.values()) : shown;
                })
                .toList();
    }

    List<ShownBlocker> blockers(List<Blocker> blockers) {
        return blockers.stream()
                .map(blocker -> new ShownBlocker(
                        blocker,
                        frame.say(
                                blocker.rows() == 0 ? "blocker.unseen" : "blocker.rows",
                                CountText.grouped(blocker.rows()),
                                blocker.table(),
                                blocker.reason(),
                                blocker.rows()),
                        rows(blocker.sample())))
                .toList();
    }

    /**
     * Effects as a tree: below each those that came through a relation to its table.
     *
     * @param tense effect for what will happen, did for what has
     */
    List<ShownEffect> effects(List<Effect> effects, String tense) {
        List<ShownEffect> shown = new ArrayList<>();
        List<Effect> left = new ArrayList<>(effects);
        left.stream().filter(effect -> effect.relation() == null).toList().forEach(root -> {
            left.remove(root);
            below(root, 0, left, shown, tense);
        });
        left.forEach(effect -> shown.add(shown(effect, 1, tense)));
        return shown;
    }

    private void below(Effect effect, int depth, List<Effect> left, List<ShownEffect> shown, String tense) {
        shown.add(shown(effect, depth, tense));
        List<Effect> children = left.stream()
                .filter(child -> effect.table().equals(parent(child.relation())))
                .toList();
        left.removeAll(children);
        children.forEach(child -> below(child, depth + 1, left, shown, tense));
    }

    private @Nullable TableName parent(@Nullable String relation) {
        return rules.schema().relations().stream()
                .filter(each -> each.name().equals(relation))
                .map(Relation::parent)
                .findFirst()
                .orElse(null);
    }

    private ShownEffect shown(Effect effect, int depth, String tense) {
        String text = frame.say(
                tense + "." + effect.action().word(),
                effect.rows(),
                CountText.grouped(effect.rows()),
                effect.table(),
                effect.becomes() == null ? "NULL" : effect.becomes());
        return new ShownEffect(effect, depth, text, rows(effect.sample()));
    }
}
