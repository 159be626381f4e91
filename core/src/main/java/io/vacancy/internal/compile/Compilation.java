// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.compile;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.Condition;
import io.vacancy.condition.RelativeTime;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.resolve.ReplacementResolver;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.request.Limits;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Operation;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.AuditColumns;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.Retention;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ArchivePolicy;
import io.vacancy.spi.plan.ColumnWrites;
import io.vacancy.spi.plan.Detail;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.MarkerPredicates;
import io.vacancy.spi.plan.Program;
import io.vacancy.spi.plan.RelationStep;
import io.vacancy.spi.plan.Replacement;
import io.vacancy.spi.plan.RequestKey;
import io.vacancy.spi.plan.Target;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Compiles one resolved request: every name looked up, every value of its column's type. */
record Compilation(
        ResolvedRules rules,
        AccessRights visibility,
        Clock clock,
        ReceiptId receipt,
        Attribution who,
        @Nullable Duration lockTimeout,
        ResolvedRequest resolved,
        Program program) {

    ExecutionPlan plan(Detail detail, boolean judged, @Nullable RequestKey key) {
        Request request = resolved.request();
        Map<TableName, Condition> scopes = scopes();
        return new ExecutionPlan(
                program,
                new TargetFactory(rules, visibility, resolved, program.mode()).target(),
                others(),
                scopes,
                request.onBlocked() == OnBlocked.SKIP,
                writes(),
                replacement(),
                marked(),
                visible(),
                archivePolicy(scopes),
                resolved.planned(),
                List.of(),
                counted(judged),
                ZonedDateTime.now(clock),
                request.lockTimeout() == null ? lockTimeout : request.lockTimeout(),
                key,
                detail);
    }

    private Map<TableName, Target> others() {
        Map<TableName, Target> others = new HashMap<>();
        for (ResolvedRequest other : resolved.others()) {
            TableName table = other.table().name();
            others.put(table, new TargetFactory(rules, visibility, other, program.mode(table)).target());
        }
        return others;
    }

    private ArchivePolicy archivePolicy(Map<TableName, Condition> scopes) {
        ZonedDateTime now = ZonedDateTime.now(clock);
        Set<TableName> without = new HashSet<>();
        Map<TableName, Instant> until = new HashMap<>();
        Stream<TableName> changed =
                program.changes().stream().map(branch -> branch.relation().child());
        Set<TableName> besides = new HashSet<>();
        program.tables().stream()
                // No trigger runs where a table itself goes.
                .filter(table ->
                        program.mode(table) == OperationKind.ERASE && resolved.operation() != OperationKind.DROP)
                .forEach(table -> besides.addAll(rules.archivedWith(table)));
        program.tables().forEach(besides::remove);
        Stream.of(program.tables().stream(), changed, besides.stream())
                .flatMap(tables -> tables)
                .forEach(table -> {
                    Retention retention = rules.retention(table);
                    ZonedDateTime end = retention.imagesUntil(now);
                    if (!retention.kept()) {
                        without.add(table);
                    } else if (end != null) {
                        until.put(table, end.toInstant());
                    }
                });
        return new ArchivePolicy(
                receipt,
                who.continued() != null,
                who.part(),
                who.actor(),
                resolved.request().reason(),
                now.toInstant(),
                resolved.request().archived(),
                who.keysInTrail(),
                who.digests(),
                without,
                besides,
                ScopeMarks.of(marked(scopes)),
                until,
                who.encrypts() ? new EncryptionPolicy(rules, resolved.operation()).of(touched()) : Map.of());
    }

    /** The tables of which rows may be archived. */
    private Stream<TableName> touched() {
        return Stream.concat(
                program.tables().stream(),
                program.changes().stream().map(branch -> branch.relation().child()));
    }

    /** Parts that several connections add may be of different tables, and belong together by the scope on all of them. */
    private Map<TableName, Condition> marked(Map<TableName, Condition> scopes) {
        return who.part() == 0
                ? scopes
                : visibility.conditions(rules.schema().tables().stream().map(Table::name));
    }

    private Map<TableName, MarkerPredicates> marked() {
        Map<TableName, MarkerPredicates> marked = new HashMap<>();
        for (TableName table : rules.marked()) {
            ResolvedMarker marker = rules.requiredMarker(table);
            List<List<String>> unique = new ArrayList<>(rules.uniqueWhileActive(table));
            rules.schema().table(table).partialUniqueKeys().stream()
                    .filter(key -> !unique.contains(key))
                    .forEach(unique::add);
            marked.put(table, new MarkerPredicates(marker.active(), marker.deleted(), unique, marker.columns()));
        }
        return marked;
    }

    private @Nullable Replacement replacement() {
        ReplacementResolver replacing = replacing();
        if (replacing == null) {
            return null;
        }
        Replacement replacement = replacing.replacement();
        List<Assignment> opening = new ArrayList<>(replacement.opening());
        opening.addAll(auditColumns(resolved.table().name()));
        return new Replacement(opening, replacement.omitted(), replacement.start(), replacement.from());
    }

    private @Nullable ReplacementResolver replacing() {
        return resolved.request().operation() instanceof Operation.Replace replace
                ? new ReplacementResolver(
                        resolved.table(),
                        rules.requiredMarker(resolved.table().name()),
                        replace,
                        ZonedDateTime.now(clock))
                : null;
    }

    private List<Assignment> ending(ReplacementResolver replacing, ResolvedMarker marker) {
        List<Assignment> all = new ArrayList<>();
        Assignment closing = replacing.closing();
        if (closing != null) {
            all.add(closing);
        }
        all.addAll(marker.companionValues(who.actor(), resolved.request().reason(), receipt.value()));
        return all;
    }

    private ColumnWrites writes() {
        ReplacementResolver replacing = replacing();
        Map<TableName, List<Assignment>> marks = new HashMap<>();
        program.modes().forEach((table, mode) -> {
            if (mode != OperationKind.ERASE && !resolved.planned().selectsArchived()) {
                List<Assignment> all = new ArrayList<>(
                        mode == OperationKind.BLANK ? rules.blanks(table) : marking(table, mode, replacing));
                all.addAll(auditColumns(table));
                marks.put(table, all);
            }
        });
        Map<TableName, List<Assignment>> auditColumns = new HashMap<>();
        Map<TableName, List<Assignment>> blanks = new HashMap<>();
        program.modes().forEach((table, mode) -> {
            if (mode == OperationKind.BLANK) {
                blanks.put(table, rules.blanks(table));
            }
        });
        for (RelationStep branch : program.changes()) {
            TableName child = branch.relation().child();
            auditColumns.put(child, auditColumns(child));
            if (branch.action() instanceof RuleAction.Blank) {
                blanks.put(child, rules.blanks(child));
            }
        }
        Set<TableName> touched = new TreeSet<>(program.tables());
        touched.addAll(auditColumns.keySet());
        if (resolved.operation() == OperationKind.RESTORE) {
            // Which links are put back, the archive tells.
            rules.schema().tables().forEach(table -> auditColumns.put(table.name(), auditColumns(table.name())));
        }
        List<ColumnWrites.Parent> parents = new ArrayList<>();
        for (TableName table : touched) {
            AuditColumns own = rules.auditColumns(table);
            for (String name : own == null ? List.<String>of() : own.parents()) {
                Relation relation = rules.schema().relation(name);
                parents.add(new ColumnWrites.Parent(relation, auditColumns(relation.parent())));
            }
        }
        return new ColumnWrites(marks, auditColumns, blanks, parents);
    }

    private List<Assignment> marking(TableName table, OperationKind mode, @Nullable ReplacementResolver replacing) {
        ResolvedMarker marker = rules.requiredMarker(table);
        if (replacing != null) {
            return ending(replacing, marker);
        }
        return mode == OperationKind.RESTORE
                ? marker.unmarking()
                : marker.marking(who.actor(), resolved.request().reason(), receipt.value());
    }

    private List<Assignment> auditColumns(TableName table) {
        AuditColumns auditColumns = rules.auditColumns(table);
        return auditColumns == null ? List.of() : auditColumns.by(who.actor(), RelativeTime.now());
    }

    private ExecutionPlan.@Nullable Visible visible() {
        Table table = resolved.table();
        OperationKind mode = program.mode();
        ResolvedMarker marker = rules.marker(table.name());
        if (marker == null || resolved.planned().selectsArchived() || resolved.operation() == OperationKind.DROP) {
            return null;
        }
        boolean all = (mode == OperationKind.ERASE || mode == OperationKind.BLANK)
                && resolved.request().includesMarked();
        Condition leftOut = mode == OperationKind.RESTORE ? marker.active() : marker.deleted();
        return new ExecutionPlan.Visible(marker.active(), all ? null : leftOut);
    }

    /**
     * The conditions on every table that the program reads; on all tables where archived rows are meant, since only the
     * store knows of which ones they are.
     */
    private Map<TableName, Condition> scopes() {
        Stream<TableName> children = Stream.concat(program.holds().stream(), program.changes().stream())
                .map(RelationStep::relation)
                .map(Relation::child);
        Stream<TableName> touched = resolved.archived() == null
                ? Stream.concat(program.tables().stream(), children)
                : rules.schema().tables().stream().map(Table::name);
        return visibility.conditions(touched);
    }

    /** Counting reads a whole table, so only those are counted of which something depends on it. */
    private Set<TableName> counted(boolean judged) {
        if (resolved.planned().selectsArchived()) {
            return Set.of();
        }
        Set<TableName> counted = new HashSet<>();
        program.tables().stream().filter(rules::neverEmptied).forEach(counted::add);
        for (ResolvedRequest each : resolved.each()) {
            TableName table = each.table().name();
            Limits limits = resolved.request().limits().stricter(rules.limits(table));
            // A condition that takes every row is to be asked like every row; a key never is one.
            boolean mayBeEveryRow = !(each.selection() instanceof Selection.ByKeys);
            if (limits.atMostPercent() != null || (judged && mayBeEveryRow)) {
                counted.add(table);
            }
        }
        return counted;
    }
}
