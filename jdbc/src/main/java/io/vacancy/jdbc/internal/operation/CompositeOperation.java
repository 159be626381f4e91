// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.schema.Row;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Fingerprint;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** One work and then another, as one: what is told of the selected rows is the first one's. */
public final class CompositeOperation implements StoreOperation {

    private final StoreOperation first;
    private final StoreOperation second;

    public CompositeOperation(StoreOperation first, StoreOperation second) {
        this.first = first;
        this.second = second;
    }

    @Override
    public Impact impact() {
        Impact one = first.impact();
        Impact other = second.impact();
        Map<Action, Long> totals = new EnumMap<>(Action.class);
        totals.putAll(one.totals());
        other.totals().forEach((action, rows) -> totals.merge(action, rows, Long::sum));
        return one.toBuilder()
                .effects(joined(one.effects(), along(other.effects())), totals)
                .blockers(joined(one.blockers(), other.blockers()))
                .skipped(one.skipped(), joined(one.skippedBy(), other.skippedBy()))
                .warnings(joined(one.warnings(), other.warnings()))
                .fingerprint(Fingerprint.joined(one.fingerprint(), other.fingerprint()))
                .build();
    }

    /** Nothing of the second is the selection itself. */
    private static List<Effect> along(List<Effect> effects) {
        return effects.stream()
                .map(effect -> effect.relation() != null
                        ? effect
                        : new Effect(
                                effect.table(), effect.action(), "", effect.becomes(), effect.rows(), effect.sample()))
                .toList();
    }

    private static <T> List<T> joined(List<T> one, List<T> other) {
        List<T> both = new ArrayList<>(one);
        both.addAll(other);
        return both;
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        return joined(first.rowsToArchive(), second.rowsToArchive());
    }

    @Override
    public List<AffectedKeys> affectedKeys(int most) {
        return joined(first.affectedKeys(most), alongAffected(second.affectedKeys(most)));
    }

    private static List<AffectedKeys> alongAffected(List<AffectedKeys> touched) {
        return touched.stream()
                .map(rows ->
                        rows.relation() != null ? rows : new AffectedKeys(rows.table(), rows.action(), "", rows.keys()))
                .toList();
    }

    @Override
    public Stream<Row> rows() {
        return first.rows();
    }

    @Override
    public List<String> afterCommit() {
        return second.afterCommit();
    }

    @Override
    public void run(Impact found) {
        first.run(found);
        second.run(found);
    }
}
