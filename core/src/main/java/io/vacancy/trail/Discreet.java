package io.vacancy.trail;

import io.vacancy.condition.Condition;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Portion;
import io.vacancy.preview.Sparing;
import io.vacancy.request.Narrowing;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.request.Successor;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** One request and what was found, told without personal values. One thread only. */
public final class Discreet {

    /** Of more keys nobody names one in a reason. */
    private static final int MOST_KEYS = 1_000;

    private final Discretion discretion;
    private final Words words = new Words();
    private final Request request;
    private final Findings findings;

    /** @param table the selected one */
    public Discreet(Discretion discretion, Request request, Table table, Findings found) {
        this.discretion = discretion;
        if (discretion.none()) {
            this.request = request;
            this.findings = found;
        } else {
            rows(found).forEach(row -> discretion.remember(row, words));
            found.effects().forEach(effect -> {
                if (effect.relation() != null && effect.becomes() != null && effect.action() == Action.REASSIGN) {
                    discretion.remember(effect.relation(), effect.becomes(), words);
                }
            });
            this.request = hidden(request, table);
            this.findings = hidden(found);
        }
    }

    private static Stream<Row> rows(Findings found) {
        return Stream.of(
                        found.records().stream(),
                        found.effects().stream().flatMap(effect -> effect.sample().stream()),
                        found.blockers().stream().flatMap(blocker -> blocker.sample().stream()),
                        found.sparedBy().stream().flatMap(spared -> spared.sample().stream()),
                        found.spared().sample().stream(),
                        found.missing().sample().stream())
                .flatMap(rows -> rows);
    }

    /** The request; its keys stay, since nobody is shown them by way of a request. */
    public Request request() {
        return request;
    }

    public Findings findings() {
        return findings;
    }

    /** A text that somebody wrote freely. */
    public @Nullable String text(@Nullable String written) {
        return words.without(written);
    }

    /** The receipt of what was found, without personal values. */
    public Receipt receipt(Receipt receipt) {
        if (discretion.none()) {
            return receipt;
        }
        return new Receipt(
                receipt.id(),
                receipt.table(),
                receipt.mode(),
                receipt.by(),
                receipt.at(),
                text(receipt.because()),
                text(receipt.unasked()),
                receipt.named(),
                request.rules(),
                hidden(receipt.spared()),
                hidden(receipt.records()),
                receipt.effects().stream().map(this::hidden).toList(),
                receipt.totals(),
                receipt.warnings().stream().map(words::whole).toList(),
                receipt.kept(),
                receipt.visibility());
    }

    private Request hidden(Request given, Table table) {
        Selection selection = given.selection();
        if (selection instanceof Selection.ByCondition by) {
            selection = new Selection.ByCondition(discretion.of(by.condition(), table, words));
        } else if (selection instanceof Selection.ByMatch match) {
            Map<String, Object> values = new LinkedHashMap<>();
            match.values()
                    .forEach((column, value) -> values.put(column, discretion.hidden(table, column, value, words)));
            selection = new Selection.ByMatch(values);
        }
        if (selection instanceof Selection.ByKeys by && by.keys().size() <= MOST_KEYS) {
            by.keys().forEach(key -> discretion.remember(table, key.valuesFor(table), words));
        }
        Narrowing narrowing = given.narrowing();
        Condition further = narrowing.condition();
        if (further != null) {
            narrowing = new Narrowing(
                    discretion.of(further, table, words), narrowing.decided(), narrowing.first(), narrowing.order());
        }
        Successor successor = given.successor();
        if (successor != null) {
            successor.values().forEach((column, value) -> {
                if (value != null) {
                    discretion.hidden(table, column, value, words);
                }
            });
        }
        Map<String, String> rules = new LinkedHashMap<>();
        given.rules().forEach((relation, rule) -> {
            int colon = rule.indexOf(':');
            if (colon > 0) {
                discretion.remember(relation, rule.substring(colon + 1), words);
            }
            rules.put(relation, words.whole(rule));
        });
        return new Request(
                given.table(),
                selection,
                narrowing,
                given.mode(),
                given.limits(),
                text(given.because()),
                text(given.unasked()),
                given.patience(),
                given.named(),
                given.onBlocked(),
                given.selectsMarked(),
                successor,
                given.images(),
                given.archived(),
                given.continued(),
                rules);
    }

    private Findings hidden(Findings found) {
        return new Findings(
                hidden(found.records()),
                found.effects().stream().map(this::hidden).toList(),
                found.blockers().stream().map(this::hidden).toList(),
                hidden(found.spared()),
                found.sparedBy().stream()
                        .map(spared -> new Sparing(
                                spared.relation(),
                                spared.rows(),
                                words.whole(spared.reason()),
                                hidden(spared.sample())))
                        .toList(),
                hidden(found.missing()),
                found.totals(),
                found.present(),
                found.warnings().stream().map(words::whole).toList(),
                found.fingerprint(),
                found.visibility(),
                found.kept());
    }

    private Effect hidden(Effect effect) {
        return new Effect(
                effect.table(),
                effect.action(),
                effect.relation(),
                text(effect.becomes()),
                effect.rows(),
                hidden(effect.sample()));
    }

    private Blocker hidden(Blocker blocker) {
        return new Blocker(
                blocker.table(),
                blocker.relation(),
                blocker.rows(),
                words.whole(blocker.reason()),
                hidden(blocker.sample()),
                blocker.waysOut());
    }

    private Portion hidden(Portion portion) {
        return new Portion(portion.rows(), hidden(portion.sample()));
    }

    private List<Row> hidden(List<Row> rows) {
        return rows.stream().map(discretion::of).toList();
    }
}
