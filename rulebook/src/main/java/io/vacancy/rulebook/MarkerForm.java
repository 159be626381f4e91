// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook;

import io.vacancy.rules.Marker;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A marker as a rule book writes it: {@code {date: left_on}}, or {@code {flag: {column: active, …}, who: left_by}}. */
final class MarkerForm {

    private static final List<String> SIGNS = List.of("flag", "date", "end-date", "status", "versions");
    private static final List<String> KEYS =
            List.of("flag", "date", "end-date", "status", "versions", "who", "why", "receipt", "restored-at");

    private MarkerForm() {}

    static Marker read(Yaml written) {
        if (!written.isMapping()) {
            throw written.wrong("A marker says by what a row is seen to be deleted.", "Write {date: left_on}.");
        }
        written.onlyKeys(KEYS);
        List<String> signs =
                SIGNS.stream().filter(sign -> written.get(sign) != null).toList();
        if (signs.size() != 1) {
            throw written.wrong(
                    "A marker has one of " + String.join(", ", SIGNS) + ", and this has "
                            + (signs.isEmpty() ? "none." : String.join(" and ", signs) + "."),
                    null);
        }
        Marker marker = sign(signs.get(0), wanted(written, signs.get(0)));
        return new Marker(
                marker.sign(),
                text(written, "who"),
                text(written, "why"),
                text(written, "receipt"),
                text(written, "restored-at"));
    }

    private static Marker sign(String sign, Yaml written) {
        return switch (sign) {
            case "flag" -> {
                written.onlyKeys(List.of("column", "active", "deleted"));
                yield Marker.flag(
                        wanted(written, "column").text(),
                        wanted(written, "active").text(),
                        wanted(written, "deleted").text());
            }
            case "date" -> Marker.date(written.text());
            case "end-date" -> {
                written.onlyKeys(List.of("column", "while-active"));
                yield Marker.endDate(
                        wanted(written, "column").text(),
                        wanted(written, "while-active").text());
            }
            case "status" -> new Marker(status(written), null, null, null, null);
            default -> versions(written);
        };
    }

    private static Marker.Status status(Yaml written) {
        written.onlyKeys(List.of("column", "active", "deleted", "was"));
        return new Marker.Status(
                wanted(written, "column").text(),
                List.copyOf(wanted(written, "active").items().stream()
                        .map(Yaml::text)
                        .toList()),
                wanted(written, "deleted").text(),
                text(written, "was"));
    }

    private static Marker versions(Yaml written) {
        written.onlyKeys(List.of("of", "start", "end", "status"));
        Yaml status = written.get("status");
        return new Marker(
                new Marker.Versions(
                        wanted(written, "of").items().stream().map(Yaml::text).toList(),
                        wanted(written, "start").text(),
                        text(written, "end"),
                        status == null ? null : status(status)),
                null,
                null,
                null,
                null);
    }

    private static Yaml wanted(Yaml written, String key) {
        Yaml value = written.get(key);
        if (value == null) {
            throw written.wrong("Here " + key + " is wanted.", null);
        }
        return value;
    }

    private static @Nullable String text(Yaml written, String key) {
        Yaml value = written.get(key);
        return value == null ? null : value.text();
    }
}
