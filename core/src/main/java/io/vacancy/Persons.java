// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.access.Permission.Act;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.PersonKeys;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.execute.ArchivedOfPerson;
import io.vacancy.internal.execute.Installation;
import io.vacancy.internal.execute.RequestExecutor;
import io.vacancy.request.Key;
import io.vacancy.request.Operation;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.Certificate;
import io.vacancy.trail.Confirmation;
import io.vacancy.trail.HistoryQuery;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * What belongs to one person, and what was done with it. Rows that are persons, and what belongs to them, the rule book says;
 * see {@link Request#forget} for what becomes of it. Serves all threads.
 */
public final class Persons {

    private final Installation at;
    private final RequestExecutor executor;

    Persons(Installation at, RequestExecutor executor) {
        this.at = at;
        this.executor = executor;
    }

    /**
     * Everything that belongs to a person, as one state of the database has it: the person's own row first, rows of a table
     * together, whatever would become of them. Rows that are marked as deleted are among them; what is archived is not. To be
     * closed: until then it holds a connection.
     *
     * @param key a {@link io.vacancy.request.Key}, a Java value, or its text
     * @return empty if there is no such person
     * @throws MisuseException if the rule book does not call rows of the table persons, or the actor may not look at a table
     *     that rows are found in
     */
    public Stream<Row> data(String table, Object key) {
        return data(Request.forget(table).key(key));
    }

    /**
     * The same of the person whom a request would forget.
     *
     * @throws MisuseException as above, or if it is another request
     */
    public Stream<Row> data(Request forget) {
        if (!(Arguments.notNull(forget, "forget").operation() instanceof Operation.Forget)) {
            throw new MisuseException(
                    "A request to " + forget.operation().word() + " is not about one person.",
                    "Begin it with Request.forget(…).");
        }
        return executor.belonging(forget);
    }

    /**
     * What is archived of rows that belong, or belonged, to a person, under any receipt: a request for each table that purges
     * it. Found by the links that rows hold, those that are there and those that are archived; the person's own row may be gone.
     * To be previewed and carried out like any other request.
     *
     * @param key a {@link io.vacancy.request.Key}, a Java value, or its text
     * @return the person's own table first; empty if nothing is archived
     * @throws MisuseException if the rule book does not call rows of the table persons, there is no archive, or the actor may
     *     not look at a table that rows are found in, or at its archive
     */
    public List<Request> archived(String table, Object key) {
        at.wantsOwnTables();
        return new ArchivedOfPerson(executor, at.rules(), Request.forget(table).key(key)).purges();
    }

    /**
     * What was done when a person was forgotten, and what is left of it by now: from the audit history and the archive, without
     * any value of the person's rows but the key, and without that where it is personal.
     *
     * @return empty if no person was forgotten under the receipt, as far as the actor may see
     * @throws MisuseException if there is no audit history yet
     */
    public Optional<Certificate> certificate(ReceiptId receipt) {
        Arguments.notNull(receipt, "receipt");
        at.wantsOwnTables();
        AccessRights visible = at.visible();
        List<TrailEntry> entries;
        // What is cut for somebody certifies nothing.
        try (Stream<TrailEntry> all =
                at.store().trail().entries(HistoryQuery.all().receipt(receipt.value()))) {
            entries = all.filter(entry -> entry.ending() == Ending.DONE && visible.seen(entry) == entry)
                    .toList();
        }
        return entries.stream()
                .filter(entry -> entry.kind() == Kind.FORGET && receipt.equals(entry.receipt()))
                .findFirst()
                .map(entry -> certificate(receipt, entry, entries));
    }

    /**
     * Destroys the key of a person, by which what is archived of the person's values is encrypted: nobody reads it any more,
     * wherever copies of the database are. It cannot be taken back, and is noted in the audit history where there is one.
     *
     * @param key a {@link io.vacancy.request.Key}, a Java value, or its text
     * @return whether there was one
     * @throws MisuseException if the rule book does not call rows of the table persons, no keys are set, or the actor may not
     *     forget persons of the table
     */
    public boolean destroyKey(String table, Object key) {
        PersonKeys keys = at.settings().personKeys;
        if (keys == null) {
            throw new MisuseException(
                    "No keys of persons are set, so none can be destroyed.", "Set personKeys(…) before open().");
        }
        Table persons = at.schema().table(table);
        at.rules().modeOfPerson(persons.name());
        at.visible().wants(persons, Act.FORGET);
        if (at.visible().condition(persons) != null) {
            throw new MisuseException(
                    "A person's key is destroyed by somebody who may see all of " + persons + ".",
                    "Ask for it without a scope.");
        }
        List<Object> values = (key instanceof Key ready ? ready : Key.of(key)).valuesFor(persons);
        boolean destroyed = keys.destroy(
                persons.toString(), values.stream().map(String::valueOf).toList());
        if (destroyed && at.store().archive().ready()) {
            at.store()
                    .trail()
                    .write(at.entries()
                            .keyDestroyed(persons, values, at.settings().clock.instant()));
        }
        return destroyed;
    }

    private Certificate certificate(ReceiptId receipt, TrailEntry done, List<TrailEntry> entries) {
        List<ArchivedRows> copies;
        try (Stream<ArchivedRows> archived =
                at.store().archive().archived(ArchiveQuery.all().withUsed().receipts(List.of(receipt)))) {
            copies = archived.filter(line -> line.there() > 0).toList();
        }
        boolean ends = copies.stream().allMatch(line -> line.until() != null);
        List<TrailEntry> since = new ArrayList<>(keyDestroyed(done));
        entries.stream()
                .filter(entry -> (entry.kind() == Kind.RESTORE || entry.kind() == Kind.PURGE)
                        && entry.receipts().contains(receipt))
                .forEach(since::add);
        List<Certificate.Later> later = since.stream()
                .map(entry -> new Certificate.Later(entry.kind(), entry.at(), entry.by()))
                .sorted(Comparator.comparing(Certificate.Later::at))
                .toList();
        Confirmation confirmation = done.confirmation();
        return new Certificate(
                receipt,
                done.at(),
                done.by(),
                done.onBehalfOf(),
                confirmation == null ? null : confirmation.approvedBy(),
                done.because(),
                String.valueOf(done.table()),
                done.affected().isEmpty() ? List.of() : done.affected().get(0).keys(),
                done.affected().stream().flatMap(Persons::line).toList(),
                copies.stream().mapToLong(ArchivedRows::there).sum(),
                ends
                        ? copies.stream()
                                .map(ArchivedRows::until)
                                .filter(Objects::nonNull)
                                .max(Comparator.naturalOrder())
                                .orElse(null)
                        : null,
                later,
                at.settings().clock.instant());
    }

    /** That the person's key was destroyed since. */
    private List<TrailEntry> keyDestroyed(TrailEntry done) {
        List<String> person =
                done.affected().isEmpty() ? List.of() : done.affected().get(0).keys();
        if (person.size() != 1) {
            return List.of();
        }
        HistoryQuery ofPerson = HistoryQuery.all()
                .of(String.valueOf(done.table()), person.get(0))
                .kind(Kind.DESTROY_KEY);
        try (Stream<TrailEntry> destroyed = at.store().trail().entries(ofPerson)) {
            return destroyed.filter(entry -> entry.at().isAfter(done.at())).toList();
        }
    }

    private static Stream<Certificate.Line> line(AffectedRows rows) {
        return rows.action() == null
                ? Stream.empty()
                : Stream.of(new Certificate.Line(
                        rows.table(), rows.action(), rows.relation(), rows.becomes(), rows.rows()));
    }
}
