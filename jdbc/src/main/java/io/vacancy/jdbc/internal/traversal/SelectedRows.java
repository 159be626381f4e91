// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The rows that everything starts from, of one table or of several. One thread only. */
final class SelectedRows {

    private final RelationTraversal traversal;
    private final List<TableName> roots;
    private final Map<TableName, Selecting> selecting = new HashMap<>();
    private final Map<TableName, List<Row>> records = new HashMap<>();
    private boolean restarted;

    SelectedRows(RelationTraversal traversal) {
        this.traversal = traversal;
        this.roots = traversal.program().roots();
    }

    /** Selects. To be called once. */
    void select(Finding finding) {
        for (TableName root : roots) {
            Selecting of = new Selecting(
                    traversal.session(),
                    traversal.terms(),
                    Objects.requireNonNull(traversal.plan().target(root)),
                    traversal.marks().narrowing(root),
                    traversal.rowsToDelete(root),
                    finding);
            of.run();
            selecting.put(root, of);
        }
    }

    /** To be called when some of them are left out. */
    void restarted() {
        records.clear();
        restarted = true;
    }

    /** How the selected rows of a table were found. */
    Selecting of(TableName root) {
        return Objects.requireNonNull(selecting.get(root), "nothing has been selected yet");
    }

    /** The selected rows as they stand, where they are few; else empty. */
    List<Row> records() {
        return roots.stream().flatMap(root -> records(root).stream()).toList();
    }

    /** The same of one of the tables. */
    List<Row> records(TableName root) {
        List<Row> known = records.get(root);
        if (known == null) {
            known = read(root);
            records.put(root, known);
        }
        return known;
    }

    private List<Row> read(TableName root) {
        List<Row> whole = restarted ? null : of(root).records();
        if (whole != null) {
            return whole;
        }
        KeySet rows = traversal.rowsToDelete(root);
        List<Integer> asked = List.of(Selecting.SELECTED);
        return rows.count(asked) > Samples.RECORDS
                ? List.of()
                : new Rows(traversal.session(), rows.table())
                        .all(rows.containsVia("t", asked), StatementContext.of("reading", root));
    }

    /** How many keys of a table were asked for and are not there. */
    long missing(TableName root) {
        RequestedKeys asked = of(root).asked();
        if (asked == null) {
            return 0;
        }
        // Rows that a relation led to are in the same set, and nobody asked for them.
        long selected = traversal.rowsToDelete(root).count(List.of(Selecting.SELECTED));
        if (asked.size() == selected) {
            return 0;
        }
        // Where nothing else narrows the selection, the rows that are there are those that were selected.
        return of(root).byKeysAlone()
                ? asked.size() - selected
                : asked.missing(traversal.terms().inScope(root));
    }

    /** The keys that were asked for and are not there. */
    Stream<Row> missing() {
        return roots.stream().flatMap(root -> missing(root, null));
    }

    /** The same of one of the tables. */
    Stream<Row> missing(TableName root, @Nullable Integer most) {
        RequestedKeys asked = of(root).asked();
        return asked == null
                ? Stream.empty()
                : asked.streamMissing(traversal.terms().inScope(root), most);
    }
}
