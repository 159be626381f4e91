// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook;

import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.rules.Retention;
import io.vacancy.rules.Rule;
import io.vacancy.rules.TableEntry;
import io.vacancy.schema.TimeEncoding;
import java.util.List;
import java.util.function.BiFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What a rule book writes of a table. */
final class TableForm {

    private static final List<String> KEYS = List.of(
            "label",
            "mode",
            "marker",
            "audit-columns",
            "unique-while-active",
            "retention",
            "personal",
            "blank",
            "person",
            "forget",
            "times",
            "archive-with",
            "never-deleted",
            "nothing-hidden",
            "never-emptied",
            "at-most",
            "at-most-in-all",
            "at-most-percent");

    private TableForm() {}

    static TableEntry read(Yaml.Entry written) {
        Yaml keys = written.value();
        keys.onlyKeys(KEYS);
        TableEntry entry = TableEntry.of(written.key()).at(written.place());
        entry = keys.with("label", entry, (read, label) -> read.label(label.text()));
        entry = keys.with("mode", entry, (read, mode) -> read.mode(mode(mode)));
        entry = keys.with("marker", entry, (read, marker) -> read.marker(MarkerForm.read(marker)));
        entry = keys.with("audit-columns", entry, (read, columns) -> auditColumns(columns, read));
        entry = keys.with("unique-while-active", entry, (read, all) -> {
            TableEntry more = read;
            for (Yaml columns : all.items()) {
                more = more.uniqueWhileActive(
                        columns.items().stream().map(Yaml::text).toArray(String[]::new));
            }
            return more;
        });
        entry = keys.with("retention", entry, (read, time) -> read.retention(retention(time)));
        entry = keys.with("personal", entry, (read, columns) -> items(columns, read, TableEntry::personal));
        entry = keys.with("blank", entry, (read, blank) -> {
            TableEntry more = read;
            for (Yaml.Entry column : blank.entries()) {
                Yaml value = column.value();
                more = more.blank(column.key(), value.empty() ? null : value.text());
            }
            return more;
        });
        entry = keys.with("person", entry, (read, person) -> person.truth() ? read.person() : read);
        entry = keys.with(
                "forget",
                entry,
                (read, policy) -> read.forget(RelationForm.rules(policy).toArray(Rule[]::new)));
        entry = keys.with("archive-with", entry, (read, tables) -> items(tables, read, TableEntry::archiveWith));
        entry = keys.with("times", entry, (read, times) -> {
            TableEntry more = read;
            for (Yaml.Entry column : times.entries()) {
                more = more.times(column.key(), encoding(column.value()));
            }
            return more;
        });
        entry = keys.with("never-deleted", entry, (read, never) -> never.truth() ? read.neverDeleted() : read);
        entry = keys.with("nothing-hidden", entry, (read, hidden) -> hidden.truth() ? read.withNothingHidden() : read);
        entry = keys.with("never-emptied", entry, (read, kept) -> kept.truth() ? read.neverEmpty() : read);
        return entry.limits(limits(keys));
    }

    private static TableEntry items(Yaml list, TableEntry before, BiFunction<TableEntry, String, TableEntry> more) {
        TableEntry entry = before;
        for (Yaml item : list.items()) {
            entry = more.apply(entry, item.text());
        }
        return entry;
    }

    private static TimeEncoding encoding(Yaml written) {
        for (TimeEncoding encoding : TimeEncoding.values()) {
            if (encoding.word().equals(written.text())) {
                return encoding;
            }
        }
        throw written.wrong(
                "\"" + written.text() + "\" is no way of keeping dates and times.",
                "Use one of "
                        + Stream.of(TimeEncoding.values())
                                .map(TimeEncoding::word)
                                .collect(Collectors.joining(", ")) + ".");
    }

    /** {@code 30 days}, {@code none}, or {@code {images: 30 days, soft-deleted: 7 years}}. */
    static Retention retention(Yaml written) {
        if (written.isText()) {
            return images(written, Retention.UNLIMITED);
        }
        written.onlyKeys(List.of("images", "soft-deleted"));
        Yaml images = written.get("images");
        Yaml softDeleted = written.get("soft-deleted");
        Retention retention = images == null ? Retention.UNLIMITED : images(images, Retention.UNLIMITED);
        return softDeleted == null ? retention : retention.softDeleted(softDeleted.as(Retention::period));
    }

    private static Retention images(Yaml written, Retention before) {
        return written.text().equals("none") ? before.withoutImages() : before.images(written.as(Retention::period));
    }

    /** {@code {changed-by: changed_by, changed-at: changed_at, version: version, parents: [mooring.boat_id]}}. */
    private static TableEntry auditColumns(Yaml written, TableEntry entry) {
        written.onlyKeys(List.of("changed-by", "changed-at", "version", "parents"));
        Yaml by = written.get("changed-by");
        Yaml at = written.get("changed-at");
        Yaml parents = written.get("parents");
        TableEntry stamped = entry.auditColumns(by == null ? null : by.text(), at == null ? null : at.text());
        Yaml version = written.get("version");
        stamped = version == null ? stamped : stamped.version(version.text());
        for (Yaml parent : parents == null ? List.<Yaml>of() : parents.items()) {
            stamped = stamped.stampsParent(parent.text());
        }
        return stamped;
    }

    private static Mode mode(Yaml written) {
        for (Mode mode : List.of(Mode.ERASE, Mode.SOFT_DELETE)) {
            if (mode.word().equals(written.text())) {
                return mode;
            }
        }
        throw written.wrong("\"" + written.text() + "\" is not a mode.", "A mode is erase or soft-delete.");
    }

    static Limits limits(Yaml written) {
        Yaml atMost = written.get("at-most");
        Yaml inAll = written.get("at-most-in-all");
        Yaml percent = written.get("at-most-percent");
        return written.as(text -> new Limits(
                null,
                atMost == null ? null : atMost.whole(),
                inAll == null ? null : inAll.whole(),
                percent == null ? null : percent.number().doubleValue()));
    }
}
