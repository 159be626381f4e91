// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.access.Caller;
import io.vacancy.access.Scope;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.PersonKeys;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.audit.Redactor;
import io.vacancy.internal.audit.TrailEntryFactory;
import io.vacancy.internal.compile.Attribution;
import io.vacancy.internal.compile.Compiler;
import io.vacancy.internal.compile.PlanFactory;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Progress;
import io.vacancy.request.Operation;
import io.vacancy.request.Request;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.spi.ExecutionMonitor;
import io.vacancy.spi.Store;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What an application has set, on the store that a call works on: the one that was given, or the same inside the
 * transaction that the calling thread is in. Serves all threads.
 */
public final class Installation {

    private static final int LONGEST_ACTOR = 255;

    private final Settings settings;
    private final Workplaces workplaces;
    private final Schemas schemas;
    private final List<Table> gone;

    public Installation(Settings settings, Workplaces workplaces) {
        this(settings, workplaces, new Schemas(), List.of());
    }

    private Installation(Settings settings, Workplaces workplaces, Schemas schemas, List<Table> gone) {
        this.settings = settings;
        this.workplaces = workplaces;
        this.schemas = schemas;
        this.gone = gone;
    }

    /** The rules as they are on the schema that was read last; shared by all that differ in settings only. */
    private static final class Schemas {

        private volatile @Nullable Compiled compiled;
    }

    private record Compiled(Schema read, ResolvedRules rules, Compiler compiler) {}

    /** The same with other settings. */
    public Installation with(Settings changed) {
        return new Installation(changed, workplaces, schemas, gone);
    }

    /** The same that works elsewhere on the same database. */
    public Installation with(Workplaces others) {
        return new Installation(settings, others, schemas, gone);
    }

    /**
     * The same for a request to purge, where tables are known that are not there any more and of which rows are archived:
     * nothing is known of them but their names.
     */
    public Installation knowingTablesOf(Request request) {
        if (!(request.operation() instanceof Operation.Purge purge)
                || !store().archive().ready()) {
            return this;
        }
        String table = request.table();
        ReceiptId receipt = purge.receipt();
        ArchiveQuery query = ArchiveQuery.all().withUsed();
        if (receipt != null) {
            query = query.receipts(List.of(receipt));
        } else if (table == null || schema().has(table)) {
            return this;
        } else {
            query = query.of(table);
        }
        try (Stream<ArchivedRows> lines = store().archive().archived(query)) {
            List<Table> unknown = lines.map(ArchivedRows::table)
                    .distinct()
                    .filter(name -> !schema().has(name.toString()))
                    .map(name ->
                            new Table(name, false, List.of(), null, List.of(), List.of(), List.of(), List.of(), null))
                    .toList();
            return unknown.isEmpty() ? this : new Installation(settings, workplaces, schemas, unknown);
        }
    }

    public Settings settings() {
        return settings;
    }

    public Workplaces workplaces() {
        return workplaces;
    }

    /** Where this thread works now. */
    public Store store() {
        return workplaces.current().store();
    }

    public OutcomePublisher publisher() {
        return workplaces.current().publisher();
    }

    public ResolvedRules rules() {
        return compiled().rules();
    }

    public Schema schema() {
        return rules().schema();
    }

    public void refresh() {
        store().refresh();
        compiled();
    }

    private Compiled compiled() {
        Compiled known = schemas.compiled;
        Schema read = store().schema();
        if (known == null || known.read() != read) {
            ResolvedRules rules = ResolvedRules.fit(settings.rules, read);
            known = new Compiled(read, rules, new Compiler(rules));
            schemas.compiled = known;
        }
        if (!gone.isEmpty()) {
            ResolvedRules rules = known.rules().knowing(gone);
            return new Compiled(read, rules, new Compiler(rules));
        }
        return known;
    }

    public PlanFactory plans() {
        Compiled now = compiled();
        Attribution who = new Attribution(
                actor(),
                settings.continued,
                settings.part,
                settings.keysInTrail,
                settings.sealing().proves(),
                settings.personKeys != null);
        return new PlanFactory(now.rules(), now.compiler(), visible(), settings.clock, who, settings.lockTimeout);
    }

    public Redactor redactor() {
        return new Redactor(rules(), settings.personalKey);
    }

    public TrailEntryFactory entries() {
        return new TrailEntryFactory(
                rules(),
                redactor(),
                visible(),
                actor(),
                settings.onBehalfOf.get(),
                settings.origin.get(),
                settings.keysInTrail);
    }

    /**
     * Who asks.
     *
     * @throws MisuseException if nobody is named
     */
    public String actor() {
        Supplier<String> actor = settings.actor;
        String who = actor == null ? null : actor.get();
        if (who == null || who.isBlank()) {
            throw new MisuseException("The actor is empty; somebody has to be named as the one who asks.");
        }
        if (who.length() > LONGEST_ACTOR) {
            throw new MisuseException(
                    "The actor has " + who.length() + " characters, and a receipt keeps " + LONGEST_ACTOR + ".",
                    "Give a name or an identifier, and the rest as origin(…).");
        }
        return who;
    }

    /** On whose account calls of this thread are made. */
    public Caller caller() {
        return new Caller(actor(), settings.onBehalfOf.get(), settings.origin.get(), settings.scope.get());
    }

    private Scope scope() {
        return Arguments.notNull(settings.scope.get(), "scope").in(schema());
    }

    /** What is there for the one who asks now. */
    public AccessRights visible() {
        return new AccessRights(schema(), scope(), settings.permission, this::actor);
    }

    /** @throws NotSetUpException if Vacancy's own tables are not there */
    public void wantsOwnTables() {
        if (!store().archive().ready()) {
            throw new NotSetUpException();
        }
    }

    /** Follows what is done for no request. */
    public ExecutionMonitor monitor() {
        return monitor(null);
    }

    /** Follows what is done for a request. */
    public ExecutionMonitor monitor(@Nullable Request request) {
        return new ExecutionMonitor() {
            @Override
            public void progress(Progress progress) {
                if (request != null) {
                    settings.listener.progress(request, progress);
                }
            }

            @Override
            public @Nullable Cancellation cancellation() {
                return settings.cancellation;
            }

            @Override
            public @Nullable PersonKeys personKeys() {
                return settings.personKeys;
            }
        };
    }
}
