// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import io.vacancy.condition.Condition;
import io.vacancy.internal.resolve.Narrowing;
import io.vacancy.internal.resolve.ResolvedMerge;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.request.Operation;
import io.vacancy.request.Selection;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** One request and what was found, told without personal values. One thread only. */
public final class RedactedRequest {

    /** Of more keys nobody names one in a reason. */
    private static final int MOST_KEYS = 1_000;

    private static final String UNKNOWN = "(withheld)";

    private final Redactor redactor;
    private final boolean known;
    private final RedactionTerms words = new RedactionTerms();
    private final ResolvedRequest request;
    private final Impact impact;

    public RedactedRequest(Redactor redactor, ResolvedRequest request, Impact found) {
        this.redactor = redactor;
        if (redactor.none()) {
            this.known = true;
            this.request = request;
            this.impact = found;
        } else {
            this.known = redactor.knowsAll(found);
            rows(found).forEach(row -> redactor.remember(row, words));
            found.effects().forEach(effect -> {
                if (effect.relation() != null && effect.becomes() != null && effect.action() == Action.REASSIGN) {
                    redactor.remember(effect.relation(), effect.becomes(), words);
                }
            });
            this.request = hidden(request);
            this.impact = hidden(found);
        }
    }

    private static Stream<Row> rows(Impact found) {
        return Stream.of(
                        found.records().stream(),
                        found.effects().stream().flatMap(effect -> effect.sample().stream()),
                        found.blockers().stream().flatMap(blocker -> blocker.sample().stream()),
                        found.skippedBy().stream().flatMap(skipped -> skipped.sample().stream()),
                        found.skipped().sample().stream(),
                        found.missing().sample().stream())
                .flatMap(rows -> rows);
    }

    /** The request; its keys stay, since nobody is shown them by way of a request. */
    public ResolvedRequest request() {
        return request;
    }

    public Impact impact() {
        return impact;
    }

    /**
     * A text that somebody wrote freely, without the personal values of the rows; where some of these were not looked at,
     * nobody knows what it names, and it is withheld.
     */
    public @Nullable String text(@Nullable String written) {
        return written == null || known ? words.without(written) : UNKNOWN;
    }

    /** The receipt of what was found, without personal values. */
    public Receipt receipt(Receipt receipt) {
        if (redactor.none()) {
            return receipt;
        }
        return Receipt.of(new Receipt.Data(
                receipt.id(),
                receipt.table(),
                receipt.operation(),
                receipt.by(),
                receipt.at(),
                text(receipt.because()),
                text(receipt.withoutConfirmation()),
                receipt.deletion(),
                request.rules(),
                hidden(receipt.skipped()),
                hidden(receipt.records()),
                receipt.effects().stream().map(this::hidden).toList(),
                receipt.totals(),
                receipt.warnings().stream().map(words::whole).toList(),
                receipt.archived(),
                receipt.activeCounts(),
                receipt.savedTo(),
                receipt.selectedFrom(),
                receipt.definition()));
    }

    private ResolvedRequest hidden(ResolvedRequest given) {
        Table table = given.table();
        Selection selection = given.selection();
        if (selection instanceof Selection.ByCondition by) {
            selection = new Selection.ByCondition(redactor.of(by.condition(), table, words));
        } else if (selection instanceof Selection.ByMatch match) {
            Map<String, Object> values = new LinkedHashMap<>();
            match.values().forEach((column, value) -> values.put(column, redactor.hidden(table, column, value, words)));
            selection = new Selection.ByMatch(values);
        }
        if (selection instanceof Selection.ByKeys by && by.keys().size() <= MOST_KEYS) {
            by.keys().forEach(key -> redactor.remember(table, key.valuesFor(table), words));
        }
        Narrowing narrowing = given.narrowing();
        Condition further = narrowing.condition();
        if (further != null) {
            narrowing = new Narrowing(
                    redactor.of(further, table, words), narrowing.filter(), narrowing.first(), narrowing.order());
        }
        if (given.request().operation() instanceof Operation.Replace replace) {
            replace.values().forEach((column, value) -> {
                if (value != null) {
                    redactor.hidden(table, column, value, words);
                }
            });
        }
        Map<String, String> rules = new LinkedHashMap<>();
        given.rules().forEach((relation, rule) -> {
            int colon = rule.indexOf(':');
            if (colon > 0) {
                redactor.remember(relation, rule.substring(colon + 1), words);
            }
            rules.put(relation, words.whole(rule));
        });
        ResolvedMerge merge = given.merge();
        return given.told(selection, narrowing, rules, merge == null ? null : hidden(merge))
                .plus(given.others().stream().map(this::hidden).toList());
    }

    private ResolvedMerge hidden(ResolvedMerge merge) {
        redactor.remember(merge.into(), words);
        return merge.told(redactor.of(merge.into()));
    }

    private Impact hidden(Impact found) {
        return found.toBuilder()
                .records(hidden(found.records()))
                .effects(found.effects().stream().map(this::hidden).toList(), found.totals())
                .blockers(found.blockers().stream().map(this::hidden).toList())
                .skipped(
                        hidden(found.skipped()),
                        found.skippedBy().stream().map(this::hidden).toList())
                .missing(hidden(found.missing()))
                .warnings(found.warnings().stream().map(words::whole).toList())
                .build();
    }

    private SkipReason hidden(SkipReason skipped) {
        return new SkipReason(
                skipped.relation(), skipped.rows(), words.whole(skipped.reason()), hidden(skipped.sample()));
    }

    private Effect hidden(Effect effect) {
        // The rule book's words and no value of a row, however few of the rows were looked at.
        boolean ofRuleBook =
                effect.action() == Action.BLANK || effect.action() == Action.KEEP || effect.action() == Action.DROP;
        return new Effect(
                effect.table(),
                effect.action(),
                effect.relation(),
                ofRuleBook ? effect.becomes() : text(effect.becomes()),
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
                blocker.permittedRules());
    }

    private RowSample hidden(RowSample sample) {
        return new RowSample(sample.rows(), hidden(sample.sample()));
    }

    private List<Row> hidden(List<Row> rows) {
        return rows.stream().map(redactor::of).toList();
    }
}
