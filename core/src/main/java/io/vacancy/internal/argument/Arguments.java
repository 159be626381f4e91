// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.argument;

import io.vacancy.failure.MisuseException;
import java.util.Collection;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Checks what is handed over at a public entrance, so that nothing that is left out ever means "every row". Each check
 * returns the argument, or throws a {@link MisuseException} that names it.
 */
public final class Arguments {

    private Arguments() {}

    /** Refuses null. */
    public static <T> T notNull(@Nullable T value, String name) {
        if (value == null) {
            throw new MisuseException("The argument " + name + " is null.", "Give a value, or leave the call out.");
        }
        return value;
    }

    /** Refuses null, and texts without a visible character. */
    public static String notBlank(@Nullable String text, String name) {
        String given = notNull(text, name);
        if (given.isBlank()) {
            throw new MisuseException("The argument " + name + " is blank.", "Give a text, or leave the call out.");
        }
        return given;
    }

    /** Refuses null, and a null among the elements. */
    public static <C extends Collection<?>> C noneNull(@Nullable C values, String name) {
        C given = notNull(values, name);
        for (Object value : given) {
            notNull(value, "element of " + name);
        }
        return given;
    }

    /** Refuses null, and an array with a null in it. */
    public static <T> T[] noneNull(T @Nullable [] values, String name) {
        T[] given = notNull(values, name);
        for (Object value : given) {
            notNull(value, "element of " + name);
        }
        return given;
    }

    /** Refuses null, and a null or blank name; values may be null. */
    public static <V extends @Nullable Object> Map<String, V> named(@Nullable Map<String, V> values, String name) {
        Map<String, V> given = notNull(values, name);
        given.keySet().forEach(key -> notBlank(key, "name in " + name));
        return given;
    }
}
