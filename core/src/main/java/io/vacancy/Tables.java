// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.access.Permission.Act;
import io.vacancy.access.TableScope;
import io.vacancy.advice.Advisor;
import io.vacancy.condition.Condition;
import io.vacancy.condition.SqlText;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.execute.Installation;
import io.vacancy.preview.RowSample;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.DdlSuggestion;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * What can be told of tables as they are: which rows are active, how many there are, which have lost their parent. Nothing
 * is changed. For all threads; see {@link Vacancy#tables}.
 */
public final class Tables {

    /** It stands in the query as it is, so that it is found where the caller wrote it. */
    private static final Pattern ALIAS = Pattern.compile("[A-Za-z_][A-Za-z0-9_]{0,62}");

    private final Installation at;

    Tables(Installation at) {
        this.at = at;
    }

    /**
     * Child rows whose parent is missing, by relation; relations without such rows are left out. To erase them, see
     * {@link io.vacancy.request.SelectionStep#orphansOf}; to set their link to NULL,
     * {@link io.vacancy.request.Request#unlinkOrphans}.
     *
     * @param relations in their written form; all if empty
     * @throws MisuseException if one is unknown, or the actor may not look at its child rows
     */
    public Map<Relation, RowSample> orphans(String... relations) {
        List<Relation> asked = Arguments.noneNull(relations, "relations").length == 0
                ? at.schema().relations()
                : Arrays.stream(relations).map(at.schema()::relation).toList();
        List<TableName> children = asked.stream().map(Relation::child).toList();
        return at.store().orphans(asked, visible(children), at.monitor());
    }

    /**
     * How many rows tables have that the actor may see.
     *
     * @param tables those that are counted; views are as good as tables
     * @throws MisuseException if the actor may not look at one
     */
    public Map<TableName, Long> counts(Collection<TableName> tables) {
        List<TableName> counted = Arguments.noneNull(tables, "tables").stream()
                .map(name -> at.schema().table(name).name())
                .toList();
        return at.store().counts(counted, visible(counted), at.monitor());
    }

    /**
     * How many rows of each table that has a marker are marked as deleted, of those that the actor may see, whoever
     * marked them. Tables that the actor may not look at are left out.
     */
    public Map<TableName, Long> marked() {
        AccessRights visible = at.visible();
        List<TableName> marked = at.rules().marked().stream()
                .filter(name -> visible.refusal(name, Act.LOOK) == null
                        && !visible.scope().closed(name))
                .toList();
        Map<TableName, Condition> scopes = visible.conditions(marked.stream());
        Map<TableName, Condition> deleted = new LinkedHashMap<>();
        for (TableName name : marked) {
            Condition is = marker(at.schema().table(name)).deleted();
            deleted.put(name, scopes.containsKey(name) ? scopes.get(name).and(is) : is);
        }
        return at.store().counts(marked, deleted, at.monitor());
    }

    /**
     * What the scope says of every table, to be looked at before somebody relies on it.
     *
     * @throws MisuseException if the scope speaks of what is not there
     */
    public List<TableScope> scopes() {
        return TableScope.of(at.settings().scope.get(), at.schema());
    }

    /**
     * What holds for the rows of a table that are active, for requests and for the application's own code.
     *
     * @throws MisuseException if the rule book gives the table no marker
     */
    public Condition active(String table) {
        return marker(at.schema().table(table)).active();
    }

    /**
     * The same as SQL of this database, to stand in the application's own queries.
     *
     * @param alias under which the query has the table: letters, digits and underscores
     */
    public SqlText activeSql(String table, String alias) {
        if (!ALIAS.matcher(Arguments.notBlank(alias, "alias")).matches()) {
            throw new MisuseException(
                    "\"" + alias + "\" is no alias of a table.",
                    "Give one of letters, digits and underscores that does not begin with a digit.");
        }
        Table meant = at.schema().table(table);
        return at.store().written(meant, marker(meant).active(), alias, ZonedDateTime.now(at.settings().clock));
    }

    /**
     * The statement that would make a view of the active rows of a table. It is not run. Today and now are those of
     * the database's clock whenever the view is read.
     *
     * @param view its name
     */
    public String activeView(String table, String view) {
        Arguments.notBlank(view, "view");
        Table meant = at.schema().table(table);
        return String.valueOf(at.store()
                .written(new DdlSuggestion.ActiveRows(meant, view, marker(meant).active())));
    }

    private ResolvedMarker marker(Table table) {
        ResolvedMarker marker = at.rules().marker(table.name());
        if (marker == null) {
            throw new MisuseException(
                    "The rule book gives " + table + " no marker, so all of its rows are active.",
                    at.rules().marked().isEmpty()
                            ? null
                            : "Tables with a marker are " + at.rules().marked() + ".");
        }
        return marker;
    }

    /** What is worth mending in the database, with the statements that would; none of them is run. */
    public Advisor advisor() {
        return new Advisor(at.rules(), at.store());
    }

    /** The conditions on the rows that the actor may see. */
    private Map<TableName, Condition> visible(Collection<TableName> tables) {
        AccessRights visible = at.visible();
        tables.forEach(name -> visible.wants(at.schema().table(name), Act.LOOK));
        return visible.conditions(tables.stream());
    }
}
