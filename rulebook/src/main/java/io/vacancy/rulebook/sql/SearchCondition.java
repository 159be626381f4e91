// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook.sql;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;

/**
 * Reads a condition as text: the SQL standard's search condition over one table's own columns, such as
 * {@code left_on < DATE '2020-01-01' AND status IN ('sold', 'sunk')}. Whatever is not understood as one is
 * refused, and nothing of the text ever reaches a database: values become bound values.
 */
public final class SearchCondition {

    /** Deeper nesting is no condition that a person wrote. */
    private static final int DEEPEST = 100;

    private static final int LONGEST = 20_000;

    /** An IN list of many values is no sign of ill will, a chain of operators is. */
    private static final int MOST_WORDS = 6_000;

    private static final int MOST_NOTS = 20;
    private static final int MOST_DOTS = 3;

    private SearchCondition() {}

    /**
     * Reads a condition.
     *
     * @throws MisuseException if the text is anything else, with the position from 1 and the reason
     */
    public static Condition read(String text) {
        Arguments.notNull(text, "text");
        if (text.isBlank()) {
            throw new MisuseException("The condition is empty.", "An empty condition never means every row.");
        }
        scan(text);
        QuotedWords quoted = QuotedWords.of(text);
        Expression parsed;
        try {
            parsed = CCJSqlParserUtil.parseCondExpression(
                    quoted.text(), false, parser -> parser.withAllowComplexParsing(false));
        } catch (StackOverflowError tooDeep) {
            throw refused(text, 1, "it is nested too deep");
        } catch (JSQLParserException | RuntimeException notUnderstood) {
            int position = quoted.origin(position(notUnderstood));
            int end = text.stripTrailing().length();
            throw position >= end
                    ? refused(text, end + 1, "it ends before it is complete")
                    : refused(text, position, "it is not understood from here on");
        }
        try {
            return new SqlConditionTranslator(text, null).condition(parsed);
        } catch (StackOverflowError tooDeep) {
            throw refused(text, 1, "it is nested too deep");
        }
    }

    /** Refuses what a parser would pass over or choke on: comments, statements, depth. */
    private static void scan(String text) {
        if (text.length() > LONGEST) {
            throw refused(text, LONGEST, "it is longer than " + LONGEST + " characters");
        }
        char quote = 0;
        int depth = 0;
        int words = 0;
        int dots = 0;
        int nots = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
                continue;
            }
            boolean word = Character.isLetterOrDigit(c) || c == '_';
            boolean begins =
                    word && (i == 0 || !(Character.isLetterOrDigit(text.charAt(i - 1)) || text.charAt(i - 1) == '_'));
            if (begins && ++words > MOST_WORDS) {
                throw refused(text, i + 1, "it has more than " + MOST_WORDS + " words");
            }
            if (begins) {
                // Parsers descend once for each NOT, and go back for each dot.
                nots = text.regionMatches(true, i, "not", 0, 3) ? nots + 1 : 0;
                dots = i > 0 && text.charAt(i - 1) == '.' ? dots + 1 : 0;
            }
            if (nots > MOST_NOTS || dots > MOST_DOTS) {
                throw refused(text, i + 1, nots > MOST_NOTS ? "there are too many NOT" : "a name has too many parts");
            }
            char next = i + 1 < text.length() ? text.charAt(i + 1) : 0;
            if (c == '\'' || c == '"') {
                quote = c;
            } else if (c == ';') {
                throw refused(text, i + 1, "a second statement is not allowed");
            } else if ((c == '-' && next == '-') || (c == '/' && next == '*') || c == '#') {
                throw refused(text, i + 1, "comments are not allowed");
            } else if (c == '\0' || c == '`' || c == '\\' || c == '|' || (c == ':' && next == ':')) {
                throw refused(text, i + 1, "this character is not part of a condition");
            } else if (c == '(' && ++depth > DEEPEST) {
                throw refused(text, i + 1, "it is nested deeper than " + DEEPEST + " parentheses");
            } else if (c == ')') {
                depth--;
            }
        }
        if (quote != 0) {
            throw refused(text, text.length(), "a quotation mark is not closed");
        }
    }

    private static int position(Exception failed) {
        for (Throwable cause = failed; cause != null; cause = cause.getCause()) {
            if (cause instanceof net.sf.jsqlparser.parser.ParseException parse
                    && parse.currentToken != null
                    && parse.currentToken.next != null) {
                return parse.currentToken.next.beginColumn;
            }
        }
        return 1;
    }

    static MisuseException refused(String text, int position, String reason) {
        int from = Math.max(0, Math.min(position - 1, text.length()));
        String there = text.substring(from, Math.min(text.length(), from + 30)).replaceAll("\\p{Cntrl}", "?");
        return new MisuseException(
                "The condition is refused at position " + position + (there.isEmpty() ? "" : ", \"" + there + "\"")
                        + ": " + reason + ".",
                "A condition compares the table's own columns with values: =, <>, <, <=, >, >=, BETWEEN, IN, LIKE,"
                        + " IS NULL, IS TRUE, AND, OR, NOT; and EXISTS over a relation.");
    }
}
