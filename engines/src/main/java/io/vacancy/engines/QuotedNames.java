// SPDX-License-Identifier: Apache-2.0
package io.vacancy.engines;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.Statement;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Puts quotes around the words in lower case of a statement, which in tests are names; keywords are in upper case. */
final class QuotedNames {

    /** A text, a name that is quoted already, or a word in lower case. */
    private static final Pattern PARTS =
            Pattern.compile("'(?:[^']|'')*'|\"[^\"]*\"|(?<!\\w)(?<name>[a-z][a-z0-9_]*)(?!\\w)");

    private QuotedNames() {}

    static String in(String sql, String quote) {
        if (sql.contains("vacancy_keys") || sql.replaceAll("'[^']*'", "").contains(quote)) {
            // Not a test's own, or one that knows better.
            return sql;
        }
        return PARTS.matcher(sql).replaceAll(part -> {
            String whole = part.group();
            boolean name = Character.isLowerCase(whole.charAt(0)) && !whole.equals("null");
            return Matcher.quoteReplacement(name ? quote + whole + quote : whole);
        });
    }

    static Connection on(Connection connection, String quote) {
        return proxy(Connection.class, connection, quote);
    }

    private static <T> T proxy(Class<T> type, T of, String quote) {
        InvocationHandler handler = (proxy, method, given) -> {
            Object[] arguments = given == null ? new Object[0] : given.clone();
            boolean takesSql = arguments.length > 0
                    && arguments[0] instanceof String
                    && (method.getName().startsWith("execute")
                            || method.getName().startsWith("prepare")
                            || method.getName().equals("addBatch"));
            if (takesSql) {
                arguments[0] = in((String) arguments[0], quote);
            }
            try {
                Object result = method.invoke(of, arguments);
                boolean plain = method.getName().equals("createStatement");
                return plain ? proxy(Statement.class, (Statement) result, quote) : result;
            } catch (InvocationTargetException failed) {
                throw failed.getCause();
            }
        };
        return type.cast(Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, handler));
    }
}
