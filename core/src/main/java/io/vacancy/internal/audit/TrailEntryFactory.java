// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.judge.Consent;
import io.vacancy.internal.judge.PreviewFactory;
import io.vacancy.internal.message.Messages;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.request.Key;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Selection;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.Confirmation;
import io.vacancy.trail.Confirmation.How;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Puts into the words of the trail what one person does or tries to do. */
public record TrailEntryFactory(
        ResolvedRules rules,
        Redactor redactor,
        AccessRights visible,
        String actor,
        @Nullable String onBehalfOf,
        Map<String, String> origin,
        int mostKeys) {

    /** What was done. */
    public TrailEntry done(
            ResolvedRequest request,
            Consent consent,
            @Nullable Question question,
            Receipt receipt,
            Impact found,
            List<AffectedKeys> affected,
            int part) {
        return entry(request, consent, question, receipt, found, affected, part, Ending.DONE);
    }

    /** What is about to be done, and no rollback would undo. */
    public TrailEntry begun(
            ResolvedRequest request,
            Consent consent,
            @Nullable Question question,
            Receipt receipt,
            Impact found,
            int part) {
        return entry(request, consent, question, receipt, found, List.of(), part, Ending.BEGUN);
    }

    private TrailEntry entry(
            ResolvedRequest request,
            Consent consent,
            @Nullable Question question,
            Receipt receipt,
            Impact found,
            List<AffectedKeys> affected,
            int part,
            Ending ending) {
        RedactedRequest told = new RedactedRequest(redactor, request, found);
        List<AffectedRows> rows = new ArrayList<>();
        for (Effect effect : told.impact().effects()) {
            rows.add(new AffectedRows(
                    effect.table().toString(),
                    effect.action(),
                    effect.relation(),
                    effect.becomes(),
                    effect.rows(),
                    keys(effect, affected)));
        }
        Confirmation confirmation = question == null ? null : confirmation(consent, question, request, told);
        return entry(request, told, ending, receipt.at(), confirmation, rows, receipt.id(), part, null);
    }

    private List<String> keys(Effect effect, List<AffectedKeys> affected) {
        Table table = rules.schema().table(effect.table());
        return affected.stream()
                .filter(rows -> rows.table().equals(effect.table())
                        && rows.action() == effect.action()
                        && Objects.equals(rows.relation(), effect.relation()))
                .flatMap(rows -> rows.keys().stream())
                .limit(Math.min(mostKeys, effect.rows()))
                .map(key -> KeyText.of(table, key, redactor))
                .toList();
    }

    /** What was not done; null where nobody refused it. */
    @Nullable
    public TrailEntry stopped(ResolvedRequest request, Consent consent, Outcome outcome, Instant now) {
        Ending ending = ending(outcome);
        Preview preview = preview(outcome);
        if (ending == null || preview == null) {
            return null;
        }
        RedactedRequest told = new RedactedRequest(redactor, request, preview.impact());
        Confirmation confirmation =
                ending == Ending.DECLINED ? confirmation(consent, preview.question(), request, told) : null;
        List<AffectedRows> selected = new ArrayList<>();
        for (ResolvedRequest each : request.each()) {
            TableName table = each.table().name();
            List<String> keys = keysOf(
                    each,
                    preview.impact().records().stream()
                            .filter(row -> row.table().equals(table))
                            .toList());
            boolean alone = request.others().isEmpty();
            long found = alone ? preview.impact().selected() : preview.impact().selectedOf(table);
            selected.add(new AffectedRows(table.toString(), null, null, null, Math.max(found, keys.size()), keys));
        }
        String reason = reason(request, outcome, told);
        return entry(request, told, ending, now, confirmation, selected, null, 0, reason);
    }

    private static @Nullable Ending ending(Outcome outcome) {
        return switch (outcome.state()) {
            case BLOCKED -> Ending.BLOCKED;
            case REFUSED -> Ending.REFUSED;
            case DECLINED -> Ending.DECLINED;
            case DONE, NOTHING, WAITING, CHANGED, BUSY, IN_DOUBT -> null;
        };
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
    private List<String> keysOf(ResolvedRequest request, List<Row> records) {
        Table table = request.table();
        List<String> keys = new ArrayList<>();
        List<String> identity = table.identity().columns();
        if (request.selection() instanceof Selection.ByKeys by) {
            Iterator<Key> each = by.keys().iterator();
            while (each.hasNext() && keys.size() < mostKeys) {
                keys.add(KeyText.of(table, each.next().valuesFor(table), redactor));
            }
        } else if (table.identity().lasts()) {
            for (Row row : records) {
                List<@Nullable Object> key = identity.stream().map(row::get).toList();
                if (!key.contains(null)) {
                    keys.add(KeyText.of(table, key, redactor));
                }
            }
        }
        return keys;
    }

    private @Nullable String reason(ResolvedRequest request, Outcome outcome, RedactedRequest told) {
        if (outcome instanceof Outcome.Blocked) {
            List<String> blockers =
                    told.impact().blockers().stream().map(Blocker::text).toList();
            return blockers.isEmpty() ? "everything is skipped" : String.join("; ", blockers);
        }
        if (!(outcome instanceof Outcome.Refused refused)) {
            return null;
        }
        if (redactor.none() || told.impact().effects().isEmpty()) {
            return told.text(refused.reason());
        }
        // Judged again without personal values, since a text that was cut short cannot be cleaned any more.
        PreviewFactory previews = new PreviewFactory(told.request(), actor, false, rules, (who, of, act) -> null, null);
        String again = previews.judge(told.impact()).refusal();
        return again == null ? told.text(refused.reason()) : again;
    }

    private Confirmation confirmation(
            Consent consent, Question question, ResolvedRequest request, RedactedRequest told) {
        How how = consent.how(request.request(), question);
        Answer answer = consent.answer();
        return switch (how) {
            case QUESTION, ACCEPTED_UNASKED -> {
                Question asked = redactor.none() ? question : new Messages(rules).ask(told.request(), told.impact());
                yield new Confirmation(
                        how,
                        asked.title(),
                        asked.consequences(),
                        answer == null ? null : told.text(answer.text()),
                        consent.fingerprint(),
                        consent.approvedBy());
            }
            case EXPECTED ->
                new Confirmation(
                        how,
                        CountText.rows(Objects.requireNonNull(
                                request.request().limits().expect())),
                        List.of(),
                        null,
                        consent.fingerprint(),
                        consent.approvedBy());
            case WITHOUT_CONFIRMATION ->
                new Confirmation(
                        how,
                        String.valueOf(told.text(request.request().withoutConfirmation())),
                        List.of(),
                        null,
                        consent.fingerprint(),
                        consent.approvedBy());
            case NOT_REQUIRED, FINGERPRINT ->
                new Confirmation(
                        how,
                        "the rule book asks nothing",
                        List.of(),
                        null,
                        consent.fingerprint(),
                        consent.approvedBy());
        };
    }

    private TrailEntry entry(
            ResolvedRequest request,
            RedactedRequest told,
            Ending ending,
            Instant at,
            @Nullable Confirmation confirmation,
            List<AffectedRows> rows,
            @Nullable ReceiptId receipt,
            int part,
            @Nullable String reason) {
        ArchiveSelection archived = request.archived();
        return TrailEntry.of(new TrailEntry.Data(
                ReceiptId.next(at).value(),
                at,
                Kind.of(request.operation()),
                ending,
                actor,
                onBehalfOf,
                origin,
                told.text(request.request().reason()),
                confirmation,
                request.table().toString(),
                selected(told.request()),
                request.request().deletion(),
                rows,
                archived == null ? List.of() : archived.receipts(),
                receipt,
                part,
                reason,
                marks(request.table().toString(), rows),
                null));
    }

    /** Of the tables that it tells of. */
    private ScopeMarks marks(@Nullable String selected, List<AffectedRows> rows) {
        return ScopeMarks.of(visible.conditions(
                Stream.concat(Stream.ofNullable(selected), rows.stream().map(AffectedRows::table))
                        .map(name -> rules.schema().table(name).name())));
    }

    private static String selected(ResolvedRequest request) {
        if (request.operation() == OperationKind.DROP) {
            return "";
        }
        String where = Messages.selectedWhole(request);
        String keys = request.selection() instanceof Selection.ByKeys by
                ? "by " + CountText.grouped(by.keys().size()) + (by.keys().size() == 1 ? " key" : " keys")
                : request.selection() instanceof Selection.EveryRow ? everyRow(request) : "";
        return keys + (keys.isEmpty() || where.isEmpty() ? "" : ", ") + where;
    }

    private static String everyRow(ResolvedRequest request) {
        ArchiveSelection archived = request.archived();
        if (archived == null || !request.planned().selectsArchived()) {
            return "every row";
        }
        return archived.saved() != null
                ? "everything in a file"
                : archived.dueAt() != null
                        ? "everything that is due"
                        : archived.receipts().isEmpty()
                                ? "everything that is archived"
                                : "everything that the receipt has archived";
    }

    /** The key of a person was destroyed, by which archived values were encrypted. */
    public TrailEntry keyDestroyed(Table persons, List<Object> person, Instant at) {
        List<AffectedRows> rows = List.of(new AffectedRows(
                persons.toString(), null, null, null, 1, List.of(KeyText.of(persons, person, redactor))));
        return TrailEntry.of(new TrailEntry.Data(
                ReceiptId.next(at).value(),
                at,
                Kind.DESTROY_KEY,
                Ending.DONE,
                actor,
                onBehalfOf,
                origin,
                null,
                null,
                persons.toString(),
                "",
                null,
                rows,
                List.of(),
                null,
                0,
                null,
                marks(persons.toString(), rows),
                null));
    }

    /** A hold that was placed, or released. */
    public TrailEntry held(Hold hold, Kind kind, Instant at) {
        String held = hold.table();
        List<AffectedRows> rows = new ArrayList<>();
        String because = hold.because();
        String on = hold.on();
        ReceiptId receipt = hold.receipt();
        if (held != null) {
            Table table = rules.schema().table(held);
            List<String> keys = new ArrayList<>();
            if (!hold.key().isEmpty()) {
                List<Object> key = typed(table, hold.key());
                keys.add(KeyText.of(table, key, redactor));
                RedactionTerms terms = new RedactionTerms();
                redactor.remember(table, key, terms);
                because = String.valueOf(terms.without(because));
                on = held + " " + keys.get(0);
            }
            rows.add(new AffectedRows(held, null, null, null, keys.size(), keys));
        }
        return TrailEntry.of(new TrailEntry.Data(
                ReceiptId.next(at).value(),
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
                rows,
                receipt == null ? List.of() : List.of(receipt),
                null,
                0,
                null,
                marks(held, rows),
                null));
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
