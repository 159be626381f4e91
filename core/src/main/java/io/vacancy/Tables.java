package io.vacancy;

import io.vacancy.access.Permission.Act;
import io.vacancy.advice.Advisor;
import io.vacancy.condition.Condition;
import io.vacancy.condition.SqlText;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.preview.RowSample;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.DdlSuggestion;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What can be told of tables as they are: which rows are active, how many there are, which have lost their parent. Nothing
 * is changed. For all threads; see {@link Vacancy#tables}.
 */
public final class Tables {

    private final Vacancy vacancy;

    Tables(Vacancy vacancy) {
        this.vacancy = vacancy;
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
                ? vacancy.schema().relations()
                : Arrays.stream(relations).map(vacancy.schema()::relation).toList();
        List<TableName> children = asked.stream().map(Relation::child).toList();
        return vacancy.store().orphans(asked, visible(children), vacancy.monitor());
    }

    /**
     * How many rows tables have that the actor may see.
     *
     * @param tables those that are counted; views are as good as tables
     * @throws MisuseException if the actor may not look at one
     */
    public Map<TableName, Long> counts(Collection<TableName> tables) {
        List<TableName> counted = Arguments.noneNull(tables, "tables").stream()
                .map(name -> vacancy.schema().table(name).name())
                .toList();
        return vacancy.store().counts(counted, visible(counted), vacancy.monitor());
    }

    /**
     * What holds for the rows of a table that are active, for requests and for the application's own code.
     *
     * @throws MisuseException if the rule book gives the table no marker
     */
    public Condition active(String table) {
        return marker(vacancy.schema().table(table)).active();
    }

    /**
     * The same as SQL of this database, to stand in the application's own queries.
     *
     * @param alias under which the query has the table
     */
    public SqlText activeSql(String table, String alias) {
        Arguments.notBlank(alias, "alias");
        Table meant = vacancy.schema().table(table);
        return vacancy.store().written(meant, marker(meant).active(), alias, ZonedDateTime.now(vacancy.clock()));
    }

    /**
     * The statement that would make a view of the active rows of a table. It is not run. Today and now are those of
     * the database's clock whenever the view is read.
     *
     * @param view its name
     */
    public String activeView(String table, String view) {
        Arguments.notBlank(view, "view");
        Table meant = vacancy.schema().table(table);
        return String.valueOf(vacancy.store()
                .written(new DdlSuggestion.ActiveRows(meant, view, marker(meant).active())));
    }

    private ResolvedMarker marker(Table table) {
        ResolvedMarker marker = vacancy.rules().marker(table.name());
        if (marker == null) {
            throw new MisuseException(
                    "The rule book gives " + table + " no marker, so all of its rows are active.",
                    vacancy.rules().marked().isEmpty()
                            ? null
                            : "Tables with a marker are " + vacancy.rules().marked() + ".");
        }
        return marker;
    }

    /** What is worth mending in the database, with the statements that would; none of them is run. */
    public Advisor advisor() {
        return new Advisor(vacancy.rules(), vacancy.store());
    }

    /** The conditions on the rows that the actor may see. */
    private Map<TableName, Condition> visible(Collection<TableName> tables) {
        Map<TableName, Condition> scopes = new HashMap<>();
        for (TableName name : tables) {
            Table table = vacancy.schema().table(name);
            vacancy.allowed(table, Act.LOOK);
            Condition condition = vacancy.scope().on(table);
            if (condition != null) {
                scopes.put(name, condition.readFor(table));
            }
        }
        return scopes;
    }
}
