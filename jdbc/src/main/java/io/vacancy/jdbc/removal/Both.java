package io.vacancy.jdbc.removal;

import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Fingerprint;
import io.vacancy.schema.Row;
import io.vacancy.trail.Touched;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** One work and then another, as one: what is told of the selected rows is the first one's. */
public final class Both implements Work {

    private final Work first;
    private final Work second;

    public Both(Work first, Work second) {
        this.first = first;
        this.second = second;
    }

    @Override
    public Findings findings() {
        Findings one = first.findings();
        Findings other = second.findings();
        Map<Action, Long> totals = new EnumMap<>(Action.class);
        totals.putAll(one.totals());
        other.totals().forEach((action, rows) -> totals.merge(action, rows, Long::sum));
        return new Findings(
                        one.records(),
                        joined(one.effects(), along(other.effects())),
                        joined(one.blockers(), other.blockers()),
                        one.spared(),
                        joined(one.sparedBy(), other.sparedBy()),
                        one.missing(),
                        totals,
                        one.present(),
                        joined(one.warnings(), other.warnings()),
                        Fingerprint.joined(one.fingerprint(), other.fingerprint()))
                .with(one.visibility());
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
    public List<Taken> takes() {
        return joined(first.takes(), second.takes());
    }

    @Override
    public List<Touched> touched(int most) {
        return joined(first.touched(most), alongTouched(second.touched(most)));
    }

    private static List<Touched> alongTouched(List<Touched> touched) {
        return touched.stream()
                .map(rows -> rows.relation() != null ? rows : new Touched(rows.table(), rows.action(), "", rows.keys()))
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
    public void run(Findings found) {
        first.run(found);
        second.run(found);
    }
}
