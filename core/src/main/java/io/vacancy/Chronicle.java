package io.vacancy;

import io.vacancy.archive.Hold;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.outcome.ReceiptId;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Wording;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.request.Images;
import io.vacancy.request.Key;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.Rules;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.trail.Asked;
import io.vacancy.trail.Asked.How;
import io.vacancy.trail.Discreet;
import io.vacancy.trail.Discretion;
import io.vacancy.trail.KeyText;
import io.vacancy.trail.Touched;
import io.vacancy.trail.Trace;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Puts into the words of the trail what one person does or tries to do. */
record Chronicle(
        Rules rules,
        Discretion discretion,
        String actor,
        @Nullable String onBehalfOf,
        Map<String, String> origin,
        int mostKeys) {

    /** What was done. */
    TrailEntry done(
            Request request,
            Mode mode,
            Agreement agreement,
            Receipt receipt,
            Findings found,
            List<Touched> touched,
            int part) {
        Table table = rules.schema().table(receipt.table());
        Discreet told = new Discreet(discretion, request, table, found);
        List<Trace> traces = new ArrayList<>();
        for (Effect effect : told.findings().effects()) {
            traces.add(new Trace(
                    effect.table().toString(),
                    effect.action(),
                    effect.relation(),
                    effect.becomes(),
                    effect.rows(),
                    keys(effect, touched)));
        }
        Asked asked = asked(agreement, request, table, mode, told);
        return entry(request, mode, told, Ending.DONE, receipt.at(), asked, traces, receipt.id(), part, null);
    }

    private List<String> keys(Effect effect, List<Touched> touched) {
        Table table = rules.schema().table(effect.table());
        return touched.stream()
                .filter(rows -> rows.table().equals(effect.table())
                        && rows.action() == effect.action()
                        && Objects.equals(rows.relation(), effect.relation()))
                .flatMap(rows -> rows.keys().stream())
                .limit(Math.min(mostKeys, effect.rows()))
                .map(key -> KeyText.of(table, key, discretion))
                .toList();
    }

    /** What did not come about; null where nobody stood in the way of it. */
    @Nullable
    TrailEntry stopped(Request request, Mode mode, Table table, Agreement agreement, Outcome outcome, Instant now) {
        Ending ending = Ending.of(outcome.state());
        Preview preview = preview(outcome);
        if (ending == null || preview == null) {
            return null;
        }
        Discreet told = new Discreet(discretion, request, table, preview.findings());
        Asked asked = ending == Ending.DECLINED || agreement.answer() == null
                ? asked(agreement, request, table, mode, told)
                : null;
        List<String> keys = keysOf(request, table, preview.findings().records());
        long rows = Math.max(preview.findings().selected(), keys.size());
        List<Trace> traces = List.of(new Trace(table.toString(), null, null, null, rows, keys));
        String reason = reason(outcome, told, table, mode);
        return entry(request, mode, told, ending, now, asked, traces, null, 0, reason);
    }

    private static @Nullable Preview preview(Outcome outcome) {
        if (outcome instanceof Outcome.Blocked blocked) {
            return blocked.preview();
        }
        if (outcome instanceof Outcome.Refused refused) {
            return refused.preview();
        }
        return outcome instanceof Outcome.Declined declined ? declined.preview() : null;
    }

    /** The keys that were asked for; else those of the rows that were found, where they are few. */
    private List<String> keysOf(Request request, Table table, List<Row> records) {
        List<String> keys = new ArrayList<>();
        List<String> identity = table.identity().columns();
        if (request.selection() instanceof Selection.ByKeys by) {
            Iterator<Key> each = by.keys().iterator();
            while (each.hasNext() && keys.size() < mostKeys) {
                keys.add(KeyText.of(table, each.next().valuesFor(table), discretion));
            }
        } else if (table.identity().lasts()) {
            for (Row row : records) {
                List<@Nullable Object> key = identity.stream().map(row::get).toList();
                if (!key.contains(null)) {
                    keys.add(KeyText.of(table, key, discretion));
                }
            }
        }
        return keys;
    }

    private @Nullable String reason(Outcome outcome, Discreet told, Table table, Mode mode) {
        if (outcome instanceof Outcome.Blocked) {
            List<String> blockers = told.findings().blockers().stream()
                    .map(blocker -> Wording.rows(blocker.rows()) + " of " + blocker.table() + " " + blocker.told())
                    .toList();
            return blockers.isEmpty() ? "everything is spared" : String.join("; ", blockers);
        }
        if (!(outcome instanceof Outcome.Refused refused)) {
            return null;
        }
        if (discretion.none() || told.findings().effects().isEmpty()) {
            return told.text(refused.reason());
        }
        // Judged again without personal values, since a text that was cut short cannot be cleaned any more.
        Judging judging = new Judging(told.request(), table, mode, actor, false, rules, (who, of, act) -> null);
        String again = judging.judge(told.findings()).refusal();
        return again == null ? told.text(refused.reason()) : again;
    }

    private @Nullable Asked asked(Agreement agreement, Request request, Table table, Mode mode, Discreet told) {
        Answer answer = agreement.answer();
        Preview seen = agreement.seen();
        String fingerprint = agreement.fingerprint();
        String unasked = told.request().unasked();
        if (answer != null && seen != null) {
            Question question = seen.question();
            if (!discretion.none()) {
                Findings shown = new Discreet(discretion, request, table, seen.findings()).findings();
                question = new Wording(rules).ask(told.request(), table, mode, shown);
            }
            return new Asked(How.QUESTION, question.title(), question.consequences(), told.text(answer.text()));
        }
        if (fingerprint != null) {
            return new Asked(How.FINGERPRINT, fingerprint, List.of(), null);
        }
        if (unasked != null) {
            return new Asked(How.UNASKED, unasked, List.of(), null);
        }
        Long expect = request.limits().expect();
        return expect == null ? null : new Asked(How.EXPECTED, Wording.rows(expect), List.of(), null);
    }

    private TrailEntry entry(
            Request request,
            Mode mode,
            Discreet told,
            Ending ending,
            Instant at,
            @Nullable Asked asked,
            List<Trace> traces,
            @Nullable String receipt,
            int part,
            @Nullable String reason) {
        boolean unlinks = request.selection() instanceof Selection.Orphans orphans && orphans.setNull();
        Images images = request.images();
        return new TrailEntry(
                ReceiptId.next(at),
                at,
                unlinks ? Kind.UNLINK : kind(mode),
                ending,
                actor,
                onBehalfOf,
                origin,
                told.text(request.because()),
                asked,
                rules.schema().table(request.table()).toString(),
                selected(told.request()),
                request.named(),
                traces,
                images == null ? List.of() : images.receipts(),
                receipt,
                part,
                reason);
    }

    private static Kind kind(Mode mode) {
        return switch (mode) {
            case ERASE -> Kind.ERASE;
            case SOFT_DELETE -> Kind.SOFT_DELETE;
            case RESTORE -> Kind.RESTORE;
            case REPLACE -> Kind.REPLACE;
            case PURGE -> Kind.PURGE;
        };
    }

    private static String selected(Request request) {
        String where = Wording.selectedWhole(request);
        String keys = request.selection() instanceof Selection.ByKeys by
                ? "by " + Wording.grouped(by.keys().size()) + (by.keys().size() == 1 ? " key" : " keys")
                : request.selection() instanceof Selection.EveryRow ? everyRow(request.images()) : "";
        return keys + (keys.isEmpty() || where.isEmpty() ? "" : ", ") + where;
    }

    private static String everyRow(@Nullable Images images) {
        if (images == null || images.besides()) {
            return "every row";
        }
        return images.saved() != null
                ? "everything in a file"
                : images.dueAt() != null
                        ? "everything that is due"
                        : images.receipts().isEmpty() ? "everything that is kept" : "everything that the receipt keeps";
    }

    /** A hold that was placed, or released. */
    TrailEntry held(Hold hold, Kind kind, Instant at) {
        String held = hold.table();
        List<Trace> traces = new ArrayList<>();
        String because = hold.because();
        String on = hold.on();
        if (held != null) {
            Table table = rules.schema().table(held);
            List<String> keys = new ArrayList<>();
            if (!hold.key().isEmpty()) {
                List<Object> key = typed(table, hold.key());
                keys.add(KeyText.of(table, key, discretion));
                Request row = Request.from(held).keys(List.of(keyOf(table, key)));
                Discreet told = new Discreet(discretion, row, table, Findings.withheld());
                because = String.valueOf(told.text(because));
                on = held + " " + keys.get(0);
            }
            traces.add(new Trace(held, null, null, null, keys.size(), keys));
        }
        return new TrailEntry(
                ReceiptId.next(at),
                at,
                kind,
                Ending.DONE,
                actor,
                onBehalfOf,
                origin,
                because,
                null,
                held,
                on,
                null,
                traces,
                hold.receipt() == null ? List.of() : List.of(hold.receipt()),
                null,
                0,
                null);
    }

    private static Key keyOf(Table table, List<Object> values) {
        Map<String, Object> parts = new LinkedHashMap<>();
        for (int i = 0; i < values.size(); i++) {
            parts.put(table.identity().columns().get(i), values.get(i));
        }
        return new Key(parts);
    }

    private static List<Object> typed(Table table, List<String> key) {
        List<Object> values = new ArrayList<>();
        for (int i = 0; i < key.size(); i++) {
            String column = table.identity().columns().get(i);
            values.add(table.column(column).read(key.get(i), table.name()));
        }
        return values;
    }
}
