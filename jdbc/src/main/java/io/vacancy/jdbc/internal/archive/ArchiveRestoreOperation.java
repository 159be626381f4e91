package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SavedSource;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.operation.StoreOperation;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.ConditionCompiler;
import io.vacancy.jdbc.internal.traversal.Keys;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.internal.traversal.Samples;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Fingerprint;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.Target;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongSupplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Rows whose images are kept become rows again, parents first; then links are put back. */
public final class ArchiveRestoreOperation implements StoreOperation {

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    private final ExecutionPlan deletion;
    private final Schema schema;
    private final ArchiveSelection images;
    private final boolean everything;
    private final ConditionCompiler terms;
    private final LongSupplier receiptNo;
    private final Table root;
    private final Map<TableName, StagingTable> rows = new LinkedHashMap<>();
    private final List<LinkRestore> links = new ArrayList<>();
    /** Through which relations rows of a table were found, by the relation's number. */
    private final Map<TableName, List<Integer>> found = new LinkedHashMap<>();

    private final List<String> relations = new ArrayList<>(List.of(""));
    private final List<Line> lines = new ArrayList<>();
    private final List<Blocker> unknown = new ArrayList<>();
    private final List<SkipReason> skippedBy = new ArrayList<>();
    private final List<String> warnings = new ArrayList<>();
    private final List<String> afterCommit = new ArrayList<>();
    private long skipped;
    private boolean stepwise;

    /**
     * @param from which archived rows are meant
     * @param everything whether all of them come back, whatever the target selects of other rows
     * @param receiptNo the number of the receipt under which they come back, asked for when they do
     * @param lock whether the receipts are locked until the transaction ends
     */
    public ArchiveRestoreOperation(
            Session session,
            OwnTables tables,
            ExecutionPlan deletion,
            ArchiveSelection from,
            boolean everything,
            boolean lock,
            LongSupplier receiptNo) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.deletion = deletion;
        this.schema = deletion.program().schema();
        this.images = from;
        this.everything = everything;
        this.terms = new ConditionCompiler(session, schema, deletion.scopes(), deletion.now());
        this.receiptNo = receiptNo;
        this.root = schema.table(deletion.program().root());
        session.pace().begin(Step.FINDING, null);
        SavedSource saved = images.saved();
        if (saved != null) {
            read(saved);
        } else {
            read(lock);
        }
        hinder();
    }

    private void read(boolean lock) {
        ArchiveReader archived = new ArchiveReader(session, tables, schema);
        ArchiveQuery query = ArchiveQuery.all().receipts(images.receipts());
        if (images.receipts().isEmpty()) {
            lines.addAll(archived.list(query.of(root.toString())));
        } else {
            lines.addAll(archived.list(query));
        }
        if (lock) {
            lock();
        }
        if (whole()) {
            lines.stream().filter(line -> !line.archived().links()).forEach(this::whole);
            links(line -> null);
            return;
        }
        List<Line> own = of(root.name());
        if (own.isEmpty()) {
            return;
        }
        stepwise = true;
        stage(root.name()).fill(own, 0, selected());
        if (images.receipts().isEmpty()) {
            // What hung on them went under the same receipts.
            List<ReceiptId> found = receiptsOf(stage(root.name()), own);
            lines.clear();
            if (!found.isEmpty()) {
                lines.addAll(archived.list(ArchiveQuery.all().receipts(found)));
            }
        }
        follow();
        links(this::toWhatComesBack);
    }

    /** Everything of the receipts is meant where the rows that were selected then are all selected now. */
    private boolean whole() {
        Target target = deletion.target();
        boolean everyRow = target.keys() == null && target.which() == null;
        boolean first = lines.stream()
                .anyMatch(line ->
                        line.archived().line() == 0 && line.archived().table().equals(root.name()));
        return everything || (everyRow && !images.receipts().isEmpty() && first);
    }

    private void whole(Line line) {
        TableName name = line.archived().table();
        if (!known(line.archived())) {
            return;
        }
        StagingTable stage = stage(name);
        List<Line> alike = of(name);
        // All lines of a table at once, so that of each key the newest is taken.
        if (alike.get(0).equals(line)) {
            for (Map.Entry<Integer, List<Line>> via : alike.stream()
                    .collect(Collectors.groupingBy(
                            each -> via(each.archived().relation()), LinkedHashMap::new, Collectors.toList()))
                    .entrySet()) {
                Sql further =
                        via.getValue().size() == alike.size() || stage.key().isEmpty()
                                ? null
                                : Sql.of("NOT EXISTS (SELECT 1 FROM " + stage.name() + " o WHERE "
                                        + stage.same("o", "t") + ")");
                stage.fill(via.getValue(), via.getKey(), further);
            }
        }
    }

    private boolean known(ArchivedRows archived) {
        boolean there =
                schema.tables().stream().anyMatch(table -> table.name().equals(archived.table()) && !table.view());
        if (!there && unknown.stream().noneMatch(blocker -> blocker.table().equals(archived.table()))) {
            unknown.add(new Blocker(
                    archived.table(),
                    null,
                    archived.left(),
                    "table " + archived.table() + " is no longer there",
                    List.of(),
                    List.of()));
        }
        return there;
    }

    private List<Line> of(TableName table) {
        return lines.stream()
                .filter(line ->
                        !line.archived().links() && line.archived().table().equals(table))
                .toList();
    }

    private StagingTable stage(TableName table) {
        return rows.computeIfAbsent(
                table, name -> StagingTable.ofRows(session, tables, schema.table(name), true, stepwise));
    }

    private int via(@Nullable String relation) {
        String name = relation == null ? "" : relation;
        if (!relations.contains(name)) {
            relations.add(name);
        }
        return relations.indexOf(name);
    }

    /** Nobody else brings the same back meanwhile. */
    private void lock() {
        String numbers = lines.stream()
                .map(line -> Long.toString(line.receiptNo()))
                .distinct()
                .collect(Collectors.joining(", "));
        if (!numbers.isEmpty()) {
            session.query(
                    Sql.of("SELECT receipt_no FROM " + dialect.syntax().table(tables.table("receipt"))
                            + " WHERE receipt_no IN (" + numbers + ") ORDER BY receipt_no"
                            + dialect.locking().forUpdate()),
                    new StatementContext("locking receipts", null, null),
                    row -> row.getLong(1));
        }
    }

    /** What holds for the selected rows, as row t. */
    private @Nullable Sql selected() {
        return ArchiveFilter.of(deletion, root, dialect, terms);
    }

    private List<ReceiptId> receiptsOf(StagingTable stage, List<Line> own) {
        List<Long> numbers = session.query(
                Sql.of("SELECT DISTINCT " + StagingTable.RECEIPT + " FROM " + stage.name()),
                stage.context("reading receipts of"),
                row -> row.getLong(1));
        return own.stream()
                .filter(line -> numbers.contains(line.receiptNo()))
                .map(line -> line.archived().receipt())
                .distinct()
                .toList();
    }

    /** With a row comes back what hung on it and went under the same receipt. */
    private void follow() {
        boolean more = true;
        while (more) {
            more = false;
            for (Relation relation : schema.relations()) {
                StagingTable parents = rows.get(relation.parent());
                List<Line> children = of(relation.child());
                if (parents == null
                        || children.isEmpty()
                        || !known(children.get(0).archived())) {
                    continue;
                }
                StagingTable stage = stage(relation.child());
                Sql hanging = Sql.of("EXISTS (SELECT 1 FROM " + parents.name() + " p WHERE "
                        + dialect.syntax().joined(relation, "p", "t") + " AND p." + StagingTable.RECEIPT + " = t."
                        + StagingTable.RECEIPT
                        + ") AND " + stage.notHere());
                more |= stage.fill(children, via(relation.name()), hanging) > 0;
            }
        }
    }

    private interface Further {
        @Nullable
        Sql of(LinkRestore link);
    }

    private void links(Further further) {
        for (Line line : lines) {
            LinkRestore link = line.archived().links() && known(line.archived()) ? link(line.archived()) : null;
            if (link != null) {
                link.stage().fill(List.of(line), via(link.relation().name()), further.of(link));
            }
        }
    }

    private @Nullable LinkRestore link(ArchivedRows archived) {
        Table child = schema.table(archived.table());
        List<String> columns = RestoreBlockerQuery.linkColumns(child, archived);
        Relation relation = schema.relationsFrom(archived.table()).stream()
                .filter(each -> each.name().equals(archived.relation()))
                .findFirst()
                .orElse(null);
        if (relation == null || columns.isEmpty() || !child.identity().lasts()) {
            warnings.add("The link " + archived.relation() + " is no longer there, and nothing is put back into it.");
            return null;
        }
        for (LinkRestore known : links) {
            if (known.relation().equals(relation) && known.columns().equals(columns)) {
                return known;
            }
        }
        LinkRestore link = new LinkRestore(StagingTable.ofLinks(session, tables, child, columns), relation, columns);
        links.add(link);
        return link;
    }

    private @Nullable Sql toWhatComesBack(LinkRestore link) {
        StagingTable parents = rows.get(link.relation().parent());
        return parents == null
                ? Sql.of("1 = 0")
                : Sql.of("EXISTS (SELECT 1 FROM " + parents.name() + " p WHERE " + link.refersTo("p", dialect) + ")");
    }

    /** From a copy outside the database: everything that it has. */
    private void read(SavedSource saved) {
        Map<Integer, ArchivedRows> byNumber = new LinkedHashMap<>();
        Map<Integer, StagingTable> stages = new LinkedHashMap<>();
        for (ArchivedRows archived : saved.lines()) {
            if (known(archived)) {
                LinkRestore link = archived.links() ? link(archived) : null;
                byNumber.put(archived.line(), archived);
                if (!archived.links()) {
                    stages.put(archived.line(), stage(archived.table()));
                } else if (link != null) {
                    stages.put(archived.line(), link.stage());
                }
            }
        }
        AtomicLong number = new AtomicLong();
        saved.each(schema, (line, row) -> {
            StagingTable stage = stages.get(line);
            ArchivedRows archived = byNumber.get(line);
            if (stage != null && archived != null) {
                stage.add(row, archived, number.incrementAndGet(), via(archived.links() ? "" : archived.relation()));
            }
        });
        stages.values().forEach(StagingTable::flush);
    }

    /** Leaves out what has changed since, and, where that is wanted, everything that something stands in the way of. */
    private void hinder() {
        for (LinkRestore link : links) {
            Sql changed = Sql.of("EXISTS (SELECT 1 FROM "
                    + dialect.syntax().table(link.stage().table().name()) + " c WHERE "
                    + link.stage().same("c", "t") + " AND CASE WHEN " + link.untouched("c", dialect)
                    + " THEN 0 ELSE 1 END = 1)");
            long left = link.stage().leaveOut(changed);
            if (left > 0) {
                warnings.add(CountText.rows(left) + " of " + link.stage().table()
                        + (left == 1 ? " holds" : " hold") + " something else in " + link.relation()
                        + " by now, and " + (left == 1 ? "keeps" : "keep") + " it.");
            }
        }
        boolean again = deletion.skipping();
        while (again) {
            again = false;
            for (RestoreBlocker blocker : hindrances()) {
                RowSample hit = hit(blocker);
                if (hit.rows() > 0) {
                    skippedBy.add(new SkipReason(blocker.relation(), hit.rows(), blocker.reason(), hit.sample()));
                    skipped += hit.rows();
                    blocker.stage().spare(blocker.which());
                    again = true;
                }
            }
        }
    }

    private List<RestoreBlocker> hindrances() {
        return new RestoreBlockerQuery(schema, dialect, terms, deletion.marked(), rows).of(links);
    }

    private RowSample hit(RestoreBlocker blocker) {
        StagingTable stage = blocker.stage();
        Sql count = Sql.of("SELECT COUNT(*) FROM " + stage.name() + " t WHERE ").add(blocker.which());
        long found = session.number(count, stage.context("looking for what blocks restoring"));
        boolean shown = found > 0 && !blocker.hidden() && !stage.links();
        return new RowSample(
                found,
                shown ? reading(stage).first(Samples.ROWS, blocker.which(), reading(stage, "reading")) : List.of());
    }

    private Rows reading(StagingTable stage) {
        return new Rows(session, stage.table(), stage.name());
    }

    private static StatementContext reading(StagingTable stage, String step) {
        return stage.context(step + " images of");
    }

    @Override
    public Impact impact() {
        Fingerprint fingerprint = new Fingerprint(OperationKind.RESTORE, false);
        List<Effect> effects = new ArrayList<>();
        Map<Action, Long> totals = new EnumMap<>(Action.class);
        StagingTable first = rows.get(root.name());
        if (first != null) {
            effects(first, effects, totals, fingerprint);
        }
        rows.forEach((table, stage) -> {
            if (stage != first) {
                effects(stage, effects, totals, fingerprint);
            }
        });
        for (LinkRestore link : links) {
            long count = link.stage().size();
            if (count > 0) {
                Sql which = Sql.of("EXISTS (SELECT 1 FROM " + link.stage().name() + " s WHERE "
                        + link.stage().same("s", "t") + ")");
                List<Row> sample = new Rows(session, link.stage().table())
                        .first(Samples.ROWS, which, reading(link.stage(), "looking for"));
                effects.add(new Effect(
                        link.stage().table().name(),
                        Action.RELINK,
                        link.relation().name(),
                        "what it was before",
                        count,
                        sample));
                totals.merge(Action.RELINK, count, Long::sum);
                print(link.stage(), Action.RELINK, fingerprint);
            }
        }
        if (!effects.isEmpty() && effects.get(0).relation() != null && skipped > 0) {
            // None of the selected rows comes back, and so nothing does.
            effects.add(0, new Effect(root.name(), Action.RESTORE, null, null, 0, List.of()));
        }
        List<Row> records = List.of();
        if (!effects.isEmpty() && first != null && effects.get(0).rows() <= Samples.RECORDS) {
            records = reading(first).all(Sql.of("t." + StagingTable.VIA + " = 0"), reading(first, "reading"));
        }
        return new Impact(
                records,
                effects,
                deletion.skipping() ? unknown : blockers(),
                skipped == 0 ? RowSample.NONE : new RowSample(skipped, List.of()),
                skippedBy,
                RowSample.NONE,
                totals,
                Map.of(),
                message(),
                deletion.shown() ? fingerprint.shown() : "");
    }

    private void effects(StagingTable stage, List<Effect> effects, Map<Action, Long> totals, Fingerprint fingerprint) {
        TableName table = stage.table().name();
        Map<Integer, Long> counts = new LinkedHashMap<>();
        session.forEach(
                Sql.of("SELECT " + StagingTable.VIA + ", COUNT(*) FROM " + stage.name() + " GROUP BY "
                        + StagingTable.VIA + " ORDER BY " + StagingTable.VIA),
                stage.context("counting images of"),
                row -> counts.put(row.getInt(1), row.getLong(2)));
        found.put(table, List.copyOf(counts.keySet()));
        counts.forEach((via, count) -> {
            List<Row> sample = deletion.shown()
                    ? reading(stage)
                            .first(
                                    Samples.ROWS,
                                    Sql.of("t." + StagingTable.VIA + " = " + via),
                                    reading(stage, "reading"))
                    : List.of();
            String relation = relations.get(via);
            effects.add(new Effect(table, Action.RESTORE, relation.isEmpty() ? null : relation, null, count, sample));
            totals.merge(Action.RESTORE, count, Long::sum);
        });
        print(stage, Action.RESTORE, fingerprint);
    }

    /** An image never changes, so its number stands for its content. */
    private void print(StagingTable stage, Action action, Fingerprint fingerprint) {
        if (deletion.shown()) {
            session.forEach(
                    Sql.of("SELECT " + StagingTable.IMAGE + " FROM " + stage.name()),
                    stage.context("reading images of"),
                    row -> fingerprint.effect(action, stage.table().name(), List.of(row.getLong(1)), null));
        }
    }

    private List<Blocker> blockers() {
        List<Blocker> blockers = new ArrayList<>(unknown);
        for (RestoreBlocker blocker : hindrances()) {
            RowSample hit = hit(blocker);
            if (hit.rows() > 0) {
                blockers.add(new Blocker(
                        blocker.stage().table().name(),
                        blocker.relation(),
                        blocker.hidden() ? 0 : hit.rows(),
                        blocker.reason(),
                        hit.sample(),
                        List.of()));
            }
        }
        return blockers;
    }

    private List<String> message() {
        List<String> told = new ArrayList<>(warnings);
        RestoreBlockerQuery hindrances = new RestoreBlockerQuery(schema, dialect, terms, deletion.marked(), rows);
        rows.forEach((table, stage) -> {
            if (!stage.table().triggers().isEmpty()) {
                told.add("Table " + table + " has triggers, which may change more than is shown here: "
                        + String.join(", ", stage.table().triggers()) + ".");
            }
            for (Sql dangling : hindrances.danglingIn(stage)) {
                long found = session.number(
                        Sql.of("SELECT COUNT(*) FROM " + stage.name() + " t WHERE ")
                                .add(dangling),
                        stage.context("looking for parents of"));
                if (found > 0) {
                    told.add(CountText.rows(found) + " of " + table + (found == 1 ? " refers" : " refer")
                            + " to something that is not there, which no foreign key minds.");
                }
            }
        });
        return told;
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        return List.of();
    }

    @Override
    public List<AffectedKeys> affectedKeys(int most) {
        List<AffectedKeys> touched = new ArrayList<>();
        found.forEach((table, ways) -> ways.forEach(via -> {
            StagingTable stage = stage(table);
            Sql which = Sql.of("t." + StagingTable.VIA + " = " + via);
            List<List<Object>> keys = Keys.first(session, stage.table(), stage.name(), which, most);
            String relation = relations.get(via);
            touched.add(new AffectedKeys(table, Action.RESTORE, relation.isEmpty() ? null : relation, keys));
        }));
        for (LinkRestore link : links) {
            StagingTable stage = link.stage();
            touched.add(new AffectedKeys(
                    stage.table().name(),
                    Action.RELINK,
                    link.relation().name(),
                    Keys.first(session, stage.table(), stage.name(), Sql.of("1 = 1"), most)));
        }
        return touched;
    }

    @Override
    public Stream<Row> rows() {
        StagingTable first = rows.get(root.name());
        return first == null
                ? Stream.empty()
                : reading(first).stream(Sql.of("t." + StagingTable.VIA + " = 0"), reading(first, "reading"));
    }

    @Override
    public void run(Impact found) {
        session.pace().begin(Step.CHANGING, found.going());
        StagedRowInserter inserting = new StagedRowInserter(session, schema, rows);
        inserting.run();
        links.forEach(inserting::putBack);
        afterCommit.addAll(inserting.afterwards());
        if (images.saved() == null) {
            long number = receiptNo.getAsLong();
            Stream.concat(rows.values().stream(), links.stream().map(LinkRestore::stage))
                    .forEach(stage -> note(stage, number));
        }
    }

    @Override
    public List<String> afterCommit() {
        return afterCommit;
    }

    private record Back(long receipt, int line, long images) {}

    /** Notes in the archive what is back; where all of a line is, on the line alone. */
    private void note(StagingTable stage, long number) {
        List<Back> back = session.query(
                Sql.of("SELECT " + StagingTable.RECEIPT + ", " + StagingTable.LINE + ", COUNT(*) FROM " + stage.name()
                        + " GROUP BY " + StagingTable.RECEIPT + ", " + StagingTable.LINE),
                stage.context("counting images of"),
                row -> new Back(row.getLong(1), row.getInt(2), row.getLong(3)));
        for (Back each : back) {
            String which = " WHERE receipt_no = " + each.receipt() + " AND line = " + each.line();
            long left = lines.stream()
                    .filter(line -> line.receiptNo() == each.receipt()
                            && line.archived().line() == each.line())
                    .mapToLong(line -> line.archived().left())
                    .sum();
            if (left != each.images()) {
                session.update(
                        Sql.of("UPDATE " + dialect.syntax().table(tables.table("image")) + " SET back_no = " + number
                                + which
                                + " AND row_no IN (SELECT " + StagingTable.IMAGE + " FROM " + stage.name() + " WHERE "
                                + StagingTable.RECEIPT + " = " + each.receipt() + " AND " + StagingTable.LINE + " = "
                                + each.line()
                                + ")"),
                        stage.context("noting what is back of"));
            }
            session.update(
                    Sql.of("UPDATE " + dialect.syntax().table(tables.table("line")) + " SET rows_left = rows_left - "
                            + each.images() + which),
                    stage.context("noting what is back of"));
        }
    }
}
