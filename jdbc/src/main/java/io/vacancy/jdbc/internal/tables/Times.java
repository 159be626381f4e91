// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import org.jspecify.annotations.Nullable;

/** Times as Vacancy's own tables have them: ISO 8601 in UTC with six digits, so that texts sort like times. */
public final class Times {

    private static final DateTimeFormatter FORM =
            DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH:mm:ss.SSSSSS'Z'").withZone(ZoneOffset.UTC);

    private Times() {}

    public static String written(Instant time) {
        return FORM.format(time);
    }

    public static @Nullable Instant read(@Nullable String written) {
        return written == null ? null : Instant.parse(written);
    }
}
