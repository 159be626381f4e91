package io.vacancy;

import io.vacancy.access.Scope;
import io.vacancy.condition.Condition;
import io.vacancy.condition.Moment;
import io.vacancy.failure.MisuseException;
import io.vacancy.program.Branch;
import io.vacancy.program.Deletion;
import io.vacancy.program.Keeping;
import io.vacancy.program.Marked;
import io.vacancy.program.Program;
import io.vacancy.program.Succession;
import io.vacancy.program.Target;
import io.vacancy.program.Writes;
import io.vacancy.request.Images;
import io.vacancy.request.Key;
import io.vacancy.request.KeyList;
import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.request.Narrowing.Order;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.request.Successor;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.FittedMarker;
import io.vacancy.rules.Retention;
import io.vacancy.rules.Rules;
import io.vacancy.rules.Stamps;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.time.Clock;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads a request against schema and rules: every name looked up, every value of its column's type. */
record Reading(Rules rules, Scope scope, Clock clock, Signature signature) {

    Deletion deletion(Request request, Table table, Program program, boolean shown) {
        return new Deletion(
                program,
                target(request, table, program.mode()),
                scopes(program, request.images()),
                request.onBlocked() == OnBlocked.SPARE,
                writes(program, request, table),
                succession(request, table),
                marked(),
                visible(request, table, program.mode()),
                keeping(request, program),
                request.images(),
                List.of(),
                counted(request, table, program, shown),
                ZonedDateTime.now(clock),
                request.patience(),
                shown);
    }

    private Keeping keeping(Request request, Program program) {
        ZonedDateTime now = ZonedDateTime.now(clock);
        Set<TableName> without = new HashSet<>();
        Map<TableName, Instant> until = new HashMap<>();
        Stream<TableName> changed =
                program.changes().stream().map(branch -> branch.relation().child());
        Stream.concat(program.tables().stream(), changed).forEach(table -> {
            Retention retention = rules.retention(table);
            ZonedDateTime end = retention.imagesUntil(now);
            if (!retention.kept()) {
                without.add(table);
            } else if (end != null) {
                until.put(table, end.toInstant());
            }
        });
        return new Keeping(
                signature.receipt(),
                request.continued() != null,
                signature.actor(),
                signature.why(),
                now.toInstant(),
                request.archived(),
                without,
                until);
    }

    private Map<TableName, Marked> marked() {
        Map<TableName, Marked> marked = new HashMap<>();
        for (TableName table : rules.marked()) {
            FittedMarker marker = marker(table);
            List<List<String>> unique = new ArrayList<>(rules.uniqueWhileActive(table));
            rules.schema().table(table).partialUniqueKeys().stream()
                    .filter(key -> !unique.contains(key))
                    .forEach(unique::add);
            marked.put(table, new Marked(marker.active(), marker.deleted(), unique));
        }
        return marked;
    }

    private @Nullable Succession succession(Request request, Table table) {
        Succeeding succeeding = succeeding(request, table);
        if (succeeding == null) {
            return null;
        }
        Succession succession = succeeding.succession();
        List<Assignment> opening = new ArrayList<>(succession.opening());
        opening.addAll(stamps(table.name()));
        return new Succession(opening, succession.omitted(), succession.start(), succession.from());
    }

    private @Nullable Succeeding succeeding(Request request, Table table) {
        Successor successor = request.successor();
        return successor == null
                ? null
                : new Succeeding(table, marker(table.name()), successor, ZonedDateTime.now(clock));
    }

    private List<Assignment> ending(Succeeding succeeding, FittedMarker marker) {
        List<Assignment> all = new ArrayList<>();
        Assignment closing = succeeding.closing();
        if (closing != null) {
            all.add(closing);
        }
        all.addAll(marker.keeping(signature.actor(), signature.why(), signature.receipt()));
        return all;
    }

    private Writes writes(Program program, Request request, Table selected) {
        Succeeding succeeding = succeeding(request, selected);
        Map<TableName, List<Assignment>> marks = new HashMap<>();
        program.modes().forEach((table, mode) -> {
            if (mode != Mode.ERASE && !fromArchive(request)) {
                FittedMarker marker = marker(table);
                List<Assignment> all = new ArrayList<>(
                        succeeding != null
                                ? ending(succeeding, marker)
                                : mode == Mode.RESTORE
                                        ? marker.unmarking()
                                        : marker.marking(signature.actor(), signature.why(), signature.receipt()));
                all.addAll(stamps(table));
                marks.put(table, all);
            }
        });
        Map<TableName, List<Assignment>> stamps = new HashMap<>();
        program.changes()
                .forEach(branch -> stamps.put(
                        branch.relation().child(), stamps(branch.relation().child())));
        Set<TableName> touched = new TreeSet<>(program.tables());
        touched.addAll(stamps.keySet());
        List<Writes.Parent> parents = new ArrayList<>();
        for (TableName table : touched) {
            Stamps own = rules.stamps(table);
            for (String name : own == null ? List.<String>of() : own.parents()) {
                Relation relation = rules.schema().relation(name);
                parents.add(new Writes.Parent(relation, stamps(relation.parent())));
            }
        }
        return new Writes(marks, stamps, parents);
    }

    private List<Assignment> stamps(TableName table) {
        Stamps stamps = rules.stamps(table);
        return stamps == null ? List.of() : stamps.by(signature.actor(), Moment.now());
    }

    /**
     * How rows of a table are marked.
     *
     * @throws MisuseException if they cannot be
     */
    private FittedMarker marker(TableName table) {
        FittedMarker marker = rules.marker(table);
        if (marker == null) {
            throw new MisuseException(
                    "Rows of " + table + " cannot be soft-deleted: the rule book gives the table no marker.",
                    "Give it one, as in marker: {date: left_on}, or erase them.");
        }
        return marker;
    }

    /** Which rows are selected from at all, or null for every row. */
    private @Nullable Condition seen(Request request, Table table, Mode mode) {
        if (fromArchive(request)) {
            return null;
        }
        if (mode == Mode.RESTORE) {
            return marker(table.name()).deleted();
        }
        if (mode == Mode.SOFT_DELETE || mode == Mode.REPLACE) {
            return marker(table.name()).active();
        }
        FittedMarker marker = rules.marker(table.name());
        return marker == null || request.selectsMarked()
                ? null
                : marker.deleted().not();
    }

    private Deletion.@Nullable Visible visible(Request request, Table table, Mode mode) {
        FittedMarker marker = rules.marker(table.name());
        if (marker == null || fromArchive(request)) {
            return null;
        }
        boolean all = mode == Mode.ERASE && request.selectsMarked();
        Condition leftOut = mode == Mode.RESTORE ? marker.active() : marker.deleted();
        return new Deletion.Visible(marker.active(), all ? null : leftOut);
    }

    private Target target(Request request, Table table, Mode mode) {
        if (mode == Mode.RESTORE && !fromArchive(request) && request.onBlocked() == OnBlocked.SPARE) {
            throw new MisuseException(
                    "Rows that come back are not spared one by one.",
                    "Leave those out that something stands in the way of.");
        }
        Selection selection = request.selection();
        Target.Keys keys = selection instanceof Selection.ByKeys by ? keys(by.keys(), table) : null;
        Condition which = null;
        if (selection instanceof Selection.ByCondition by) {
            which = by.condition();
        } else if (selection instanceof Selection.ByMatch match) {
            which = match.condition();
        }
        Condition further = request.narrowing().condition();
        if (further != null) {
            which = which == null ? further : which.and(further);
        }
        List<Order> order = request.narrowing().order().stream()
                .map(by -> new Order(table.column(by.column()).name(), by.descending()))
                .toList();
        Long first = request.narrowing().first();
        if (first == null && !order.isEmpty()) {
            throw new MisuseException(
                    "An order of rows is given, and no number of rows to take in it.", "Give a limit as well.");
        }
        boolean atOnce = selection instanceof Selection.EveryRow every && every.atOnce();
        if (atOnce && mode != Mode.ERASE) {
            throw new MisuseException(
                    "Table " + table
                            + " is emptied at once, which erases its rows; none of them is marked or restored.",
                    "Select every row, and leave the at once out.");
        }
        if (atOnce && rules.marker(table.name()) != null && !request.selectsMarked()) {
            throw new MisuseException(
                    "Table " + table + " is emptied at once, which takes the rows that are marked as deleted along.",
                    "Say that these are meant as well, by withMarked() or --with-marked.");
        }
        return new Target(
                keys,
                which == null ? null : read(which, table),
                atOnce ? null : seen(request, table, mode),
                request.narrowing().decided(),
                first,
                order,
                selection instanceof Selection.Orphans orphans ? orphaning(orphans, table) : null,
                selection instanceof Selection.Orphans orphans && orphans.setNull(),
                atOnce);
    }

    private Relation orphaning(Selection.Orphans orphans, Table table) {
        Relation relation = rules.schema().relation(orphans.relation());
        if (!relation.child().equals(table.name())) {
            throw new MisuseException(
                    "Rows of " + table + " have no parent by " + relation + ".",
                    "Its child rows are those of " + relation.child() + ".");
        }
        if (orphans.setNull() && !table.anyNullable(relation.childColumns())) {
            throw new MisuseException(
                    "The link " + relation + " cannot be NULL.", "Give the rows a parent, or have them go.");
        }
        return relation;
    }

    private static Condition read(Condition condition, Table table) {
        for (String parameter : condition.parameters()) {
            throw new MisuseException(
                    "The condition wants a value for its parameter " + parameter + ", and none is given.",
                    "Parameters belong to the named deletions of a rule book.");
        }
        return condition.readFor(table);
    }

    /** Read key by key whenever they are gone through, so that a million of them take no room but their own. */
    private static Target.Keys keys(KeyList given, Table table) {
        // Once before anything else, so that a wrong one is told before any of them reaches the database.
        given.forEach(key -> key.valuesFor(table));
        return new Target.Keys(given.size(), () -> {
            Iterator<Key> keys = given.iterator();
            return new Iterator<>() {
                @Override
                public boolean hasNext() {
                    return keys.hasNext();
                }

                @Override
                public List<Object> next() {
                    return keys.next().valuesFor(table);
                }
            };
        });
    }

    /** The conditions on every table that the program reads. */
    /** Of all tables where images are meant, since only the store knows of which ones they are. */
    private Map<TableName, Condition> scopes(Program program, @Nullable Images images) {
        Map<TableName, Condition> scopes = new HashMap<>();
        Stream<TableName> children = Stream.concat(program.holds().stream(), program.changes().stream())
                .map(Branch::relation)
                .map(relation -> relation.child());
        Stream<TableName> touched = images == null
                ? Stream.concat(program.tables().stream(), children)
                : rules.schema().tables().stream().map(Table::name);
        touched.distinct().forEach(name -> {
            Table table = rules.schema().table(name);
            Condition condition = scope.on(table);
            if (condition != null) {
                scopes.put(name, condition.readFor(table));
            }
        });
        return scopes;
    }

    /** Counting reads a whole table, so only those are counted of which something depends on it. */
    private Set<TableName> counted(Request request, Table table, Program program, boolean shown) {
        Set<TableName> counted = new HashSet<>();
        program.tables().stream().filter(rules::neverEmptied).forEach(counted::add);
        Limits limits = request.limits().stricter(rules.limits(table.name()));
        // A condition that takes every row is to be asked like every row; a key never is one.
        boolean mayBeEveryRow = !(request.selection() instanceof Selection.ByKeys);
        if (limits.atMostPercent() != null || (shown && mayBeEveryRow)) {
            counted.add(table.name());
        }
        return fromArchive(request) ? Set.of() : counted;
    }

    /** Whether images are meant by the selection, not rows that are there. */
    private static boolean fromArchive(Request request) {
        Images images = request.images();
        return images != null && !images.besides();
    }
}
