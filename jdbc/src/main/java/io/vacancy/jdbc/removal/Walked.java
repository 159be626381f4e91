package io.vacancy.jdbc.removal;

import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.walk.Keys;
import io.vacancy.jdbc.walk.NewValue;
import io.vacancy.jdbc.walk.Report;
import io.vacancy.jdbc.walk.RowSet;
import io.vacancy.jdbc.walk.Walk;
import io.vacancy.preview.Action;
import io.vacancy.preview.Findings;
import io.vacancy.program.Branch;
import io.vacancy.program.Deletion;
import io.vacancy.request.Mode;
import io.vacancy.rules.Fate;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.trail.Touched;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** Rows that are found along relations, and go, are marked, come back or end. */
public final class Walked implements Work {

    private final Session session;
    private final Walk walk;
    private final Report report;

    /** @param lock whether the rows found are to be locked until the transaction ends */
    public Walked(Session session, Deletion deletion, boolean lock) {
        this.session = session;
        this.walk = new Walk(session, deletion, lock);
        walk.run();
        this.report = new Report(walk);
    }

    @Override
    public Findings findings() {
        return report.findings();
    }

    @Override
    public List<Taken> takes() {
        List<Taken> takes = new ArrayList<>();
        TableName root = walk.program().root();
        going(root, takes);
        walk.program().tables().stream().filter(table -> !table.equals(root)).forEach(table -> going(table, takes));
        walk.changed().forEach((branch, rows) -> {
            if (rows.size() > 0) {
                takes.add(new Taken(
                        rows.table(),
                        branch.relation().name(),
                        rows.mayTouch(),
                        rows.size(),
                        null,
                        NewValue.of(branch, walk.schema(), session.dialect())));
            }
        });
        return takes;
    }

    /** Rows that are marked, come back or end stay where they are, and their marker tells all. */
    private void going(TableName table, List<Taken> takes) {
        if (walk.program().mode(table) != Mode.ERASE) {
            return;
        }
        RowSet rows = walk.doomed(table);
        for (Branch branch : walk.leavesBy(table)) {
            if (walk.doomed(branch.relation().parent()).size() > 0) {
                takes.add(new Taken(
                        rows.table(),
                        branch.relation().name(),
                        walk.unseen(branch),
                        null,
                        count -> walk.wentBefore(branch, count),
                        Map.of()));
            }
        }
        if (rows.size() > 0 && walk.leavesBy(table).isEmpty()) {
            rows.byRelation(walk.ways())
                    .forEach((relation, via) -> takes.add(new Taken(
                            rows.table(),
                            relation.isEmpty() ? null : relation,
                            rows.scoped(rows.containsVia("t", via)),
                            rows.count(via),
                            null,
                            Map.of())));
        }
    }

    @Override
    public List<Touched> touched(int most) {
        List<Touched> touched = new ArrayList<>();
        for (TableName table : walk.program().tables()) {
            RowSet rows = walk.doomed(table);
            Action action = Report.action(walk.program().mode(table));
            for (Branch branch : walk.leavesBy(table)) {
                if (walk.doomed(branch.relation().parent()).size() > 0) {
                    String from = session.dialect().table(table);
                    List<List<Object>> keys = Keys.first(session, rows.table(), from, walk.unseen(branch), most);
                    touched.add(new Touched(table, action, branch.relation().name(), keys));
                }
            }
            if (rows.size() > 0 && walk.leavesBy(table).isEmpty()) {
                rows.byRelation(walk.ways())
                        .forEach((relation, via) -> touched.add(new Touched(
                                table, action, relation.isEmpty() ? null : relation, rows.keys(via, most))));
            }
        }
        walk.changed().forEach((branch, rows) -> {
            if (rows.size() > 0) {
                Action action = branch.fate() instanceof Fate.Reassign ? Action.REASSIGN : Action.SET_NULL;
                touched.add(new Touched(
                        rows.table().name(), action, branch.relation().name(), rows.keys(null, most)));
            }
        });
        return touched;
    }

    @Override
    public Stream<Row> rows() {
        return walk.rows(walk.program().root());
    }

    @Override
    public void run(Findings found) {
        new Removing(session, walk).run();
    }

    @Override
    public Findings afterwards(Findings found) {
        return report.afterwards(found);
    }
}
