// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook;

import io.vacancy.advice.Proposal;
import io.vacancy.advice.Proposal.Kind;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.text.VisibleText;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleAction;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * A first rule book for a database, in YAML, to be read and decided on. As it is written it is right for the database
 * and changes no deletion; what would is a comment.
 */
public final class RuleBookDraft {

    private static final Pattern PLAIN = Pattern.compile("[A-Za-z_][A-Za-z0-9_.]*");
    private static final Set<String> WORDS = Set.of("true", "false", "null", "yes", "no", "on", "off", "y", "n");
    private static final int COMMENT_AT = 46;

    private final Schema schema;
    private final List<Proposal> proposals;
    private final StringBuilder text = new StringBuilder();

    private RuleBookDraft(Schema schema, List<Proposal> proposals) {
        this.schema = schema;
        this.proposals = proposals;
    }

    /**
     * The text of a rule book.
     *
     * @param database what the database is called in the comment at the top
     * @param proposals as {@link io.vacancy.advice.Proposer} makes them
     */
    public static String of(String database, Schema schema, List<Proposal> proposals) {
        Arguments.notBlank(database, "database");
        Arguments.notNull(schema, "schema");
        Arguments.noneNull(proposals, "proposals");
        return new RuleBookDraft(schema, List.copyOf(proposals)).written(database);
    }

    private String written(String database) {
        line("# A first rule book for " + comment(database) + ".");
        line("# As it stands it changes nothing: relations do what the database declares. Lines that begin with #");
        line("# are proposals by names and types; take the # away from what is so.");
        line("version: 1");
        tables();
        relations();
        decisions();
        return text.toString();
    }

    private void tables() {
        List<Table> told = schema.tables().stream()
                .filter(table -> proposals.stream().anyMatch(each -> ofTable(each, table.name())))
                .toList();
        if (told.isEmpty()) {
            return;
        }
        line("");
        // A key with nothing but comments below it would be no mapping.
        boolean any = proposals.stream()
                .anyMatch(each -> each.likely() && told.stream().anyMatch(table -> ofTable(each, table.name())));
        line(any ? "tables:" : "# tables:");
        for (Table table : told) {
            List<Proposal> own = proposals.stream()
                    .filter(each -> ofTable(each, table.name()))
                    .toList();
            boolean likely = own.stream().anyMatch(Proposal::likely);
            line((likely ? "  " : "  # ") + quoted(table.toString()) + ":");
            own.forEach(each -> line(likely && each.likely() ? "    " : "    # ", tableEntry(each), each.reason()));
        }
    }

    private static boolean ofTable(Proposal each, TableName table) {
        return each.table().equals(table)
                && switch (each.kind()) {
                    case LABEL, DATE_MARKER, FLAG_MARKER, VERSIONS, PERSONAL -> true;
                    case RELATION, NO_KEY, SHARED_COLUMN -> false;
                };
    }

    private static String tableEntry(Proposal each) {
        List<String> columns = each.columns();
        return switch (each.kind()) {
            case LABEL -> "label: " + always("{" + columns.get(0) + "}");
            case DATE_MARKER -> "marker: {date: " + quoted(columns.get(0)) + "}";
            case FLAG_MARKER ->
                "marker: {flag: {column: " + quoted(columns.get(0)) + ", active: \"?\", deleted: \"?\"}}";
            case VERSIONS ->
                "marker: {versions: {of: " + list(columns.subList(0, columns.size() - 2)) + ", start: "
                        + quoted(columns.get(columns.size() - 2)) + ", end: "
                        + quoted(columns.get(columns.size() - 1)) + "}}";
            case PERSONAL -> "personal: " + list(columns);
            case RELATION, NO_KEY, SHARED_COLUMN ->
                throw new IllegalArgumentException(each.kind() + " is not about a table alone");
        };
    }

    private void relations() {
        List<Relation> declared = schema.relations();
        List<Proposal> likely =
                proposals.stream().filter(each -> each.kind() == Kind.RELATION).toList();
        if (declared.isEmpty() && likely.isEmpty()) {
            return;
        }
        line("");
        boolean any = !declared.isEmpty() || likely.stream().anyMatch(Proposal::likely);
        line(any ? "relations:" : "# relations:");
        if (!declared.isEmpty()) {
            ResolvedRules rules = ResolvedRules.check(RuleBook.empty(), schema);
            line("  # What the database declares: cascade, block, or set-null.");
            for (Relation relation : declared) {
                RuleAction action = rules.rulesFor(relation).get(0).action();
                line("  " + quoted(relation.name()) + ": " + rule(action, relation));
            }
        }
        if (!likely.isEmpty()) {
            line(
                    "  # What the database does not know of. \"leave\" is what happens without the line; block or cascade");
            line("  # may be meant. `vacancy orphans` tells which rows have no parent.");
            likely.forEach(each -> line(
                    each.likely() ? "  " : "  # ",
                    always(each.table() + "." + columns(each.columns()) + " -> " + each.parent() + "."
                                    + columns(each.parentColumns()))
                            + ": leave",
                    each.reason()));
        }
    }

    private static String rule(RuleAction action, Relation relation) {
        if (action instanceof RuleAction.Block) {
            return "{block: " + always("still refers to " + relation.parent()) + "}";
        }
        return action.word();
    }

    private void decisions() {
        List<String> decisions = new ArrayList<>();
        proposals.stream()
                .filter(each -> each.kind() == Kind.SHARED_COLUMN)
                .forEach(each -> decisions.add("Is " + columns(each.columns()) + " a tenant's? " + each.reason()
                        + "; --scope " + columns(each.columns()) + "=VALUE then keeps each to its own rows."));
        List<String> keyless = proposals.stream()
                .filter(each -> each.kind() == Kind.NO_KEY)
                .map(each -> each.table().toString())
                .toList();
        if (!keyless.isEmpty()) {
            decisions.add("Has no key, so its rows are told apart by the engine alone or not at all: "
                    + String.join(", ", keyless) + ".");
        }
        decisions.add("Which tables must never lose a row? never-deleted: true");
        decisions.add("How many rows may go at once? at-most: 500");
        decisions.add("Which tables are soft-deleted by default? mode: soft-delete, beside their marker");
        decisions.add("How long are deleted rows archived? retention: 30 days, at the top");
        line("");
        line("# To decide:");
        decisions.forEach(each -> line("# - " + comment(each)));
    }

    private void line(String begin, String entry, String reason) {
        String written = begin + entry;
        line(written + " ".repeat(Math.max(2, COMMENT_AT - written.length())) + "# " + comment(reason));
    }

    private void line(String line) {
        text.append(line).append('\n');
    }

    private static String columns(List<String> columns) {
        return columns.size() == 1 ? columns.get(0) : "(" + String.join(",", columns) + ")";
    }

    private static String list(List<String> columns) {
        return columns.stream().map(RuleBookDraft::quoted).collect(Collectors.joining(", ", "[", "]"));
    }

    private static String quoted(String name) {
        return PLAIN.matcher(name).matches() && !WORDS.contains(name.toLowerCase(Locale.ROOT)) ? name : always(name);
    }

    /** Double-quoted, as YAML has it. */
    private static String always(String text) {
        StringBuilder quoted = new StringBuilder("\"");
        text.chars().forEach(c -> {
            if (c == '"' || c == '\\') {
                quoted.append('\\').append((char) c);
            } else if (c < ' ' || c == 0x7f || c == 0x85 || c == 0x2028 || c == 0x2029 || c == 0xfeff) {
                quoted.append(String.format("\\u%04x", c));
            } else {
                quoted.append((char) c);
            }
        });
        return quoted.append('"').toString();
    }

    /** A name may hold a line break, and what stands behind it would be no comment. */
    private static String comment(String text) {
        return VisibleText.line(text);
    }
}
