// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test;

import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.assertj.core.api.AbstractAssert;
import org.jspecify.annotations.Nullable;

/** Assertions on what a request would do. Rows of a table that several relations reach are added up. */
public final class PreviewAssert extends AbstractAssert<PreviewAssert, Preview> {

    private final Set<String> named = new TreeSet<>();

    PreviewAssert(@Nullable Preview actual) {
        super(actual, PreviewAssert.class);
    }

    /** It could go ahead. */
    public PreviewAssert isReady() {
        return is(Preview.State.READY);
    }

    /** It selects nothing. */
    public PreviewAssert isNothing() {
        return is(Preview.State.NOTHING);
    }

    private PreviewAssert is(Preview.State state) {
        isNotNull();
        if (actual.state() != state) {
            failWithMessage(
                    "Expected the preview to be %s, but it is %s%s%s",
                    state.word(), actual.state().word(), because(actual.refusal()), blockers());
        }
        return this;
    }

    private static String because(@Nullable String refusal) {
        return refusal == null ? "" : ": " + refusal;
    }

    private String blockers() {
        List<Blocker> blockers = actual.impact().blockers();
        return blockers.isEmpty()
                ? ""
                : ", blocked by "
                        + blockers.stream()
                                .map(blocker -> blocker.rows() + " of " + blocker.table() + " " + blocker.message())
                                .toList();
    }

    /** So many rows of the table would be removed or marked. */
    public PreviewAssert deletes(String table, long rows) {
        return has(table, rows, "deleted", Effect::goes);
    }

    /** So many rows of the table would stay and lose their link. */
    public PreviewAssert unlinks(String table, long rows) {
        return has(table, rows, "unlinked", effect -> effect.action() == Action.SET_NULL);
    }

    /** So many rows of the table would stay and get another parent. */
    public PreviewAssert reassigns(String table, long rows) {
        return has(table, rows, "reassigned", effect -> effect.action() == Action.REASSIGN);
    }

    /** So many rows of the table would stay without what is personal in them. */
    public PreviewAssert blanks(String table, long rows) {
        return has(table, rows, "blanked", effect -> effect.action() == Action.BLANK);
    }

    /** So many rows of the table belong to a person who is forgotten, and would be kept as they are. */
    public PreviewAssert keeps(String table, long rows) {
        return has(table, rows, "kept", effect -> effect.action() == Action.KEEP);
    }

    private PreviewAssert has(String table, long rows, String what, Predicate<Effect> which) {
        isNotNull();
        named.add(table);
        long found = actual.impact().effects().stream()
                .filter(effect -> effect.table().toString().equals(table) && which.test(effect))
                .mapToLong(Effect::rows)
                .sum();
        if (found != rows) {
            failWithMessage(
                    "Expected %d rows of %s to be %s, but there are %d; all effects: %s",
                    rows, table, what, found, effects());
        }
        return this;
    }

    private List<String> effects() {
        return actual.impact().effects().stream()
                .map(effect -> effect.action().word() + " " + effect.rows() + " of " + effect.table()
                        + (effect.relation() == null ? "" : " through " + effect.relation()))
                .toList();
    }

    /** Nothing happens to rows of these tables. */
    public PreviewAssert leavesAlone(String... tables) {
        isNotNull();
        List<String> touched =
                Arrays.stream(tables).filter(affected()::contains).toList();
        if (!touched.isEmpty()) {
            failWithMessage("Expected rows of %s to be left alone; all effects: %s", touched, effects());
        }
        return this;
    }

    /** Nothing happens to rows of tables that were not named before. */
    public PreviewAssert leavesOtherTablesAlone() {
        isNotNull();
        Set<String> others = affected();
        others.removeAll(named);
        if (!others.isEmpty()) {
            failWithMessage("Expected no rows but of %s to be affected; all effects: %s", named, effects());
        }
        return this;
    }

    private Set<String> affected() {
        Set<String> affected = new TreeSet<>();
        actual.impact().effects().stream()
                .filter(effect -> effect.action() != Action.KEEP)
                .forEach(effect -> affected.add(effect.table().toString()));
        return affected;
    }

    /** So many rows block it through this relation. */
    public PreviewAssert isBlockedBy(String relation, long rows) {
        is(Preview.State.BLOCKED);
        long found = actual.impact().blockers().stream()
                .filter(blocker -> relation.equals(blocker.relation()))
                .mapToLong(Blocker::rows)
                .sum();
        if (found != rows) {
            failWithMessage("Expected %d rows to block through %s, but it is%s", rows, relation, blockers());
        }
        return this;
    }

    /** So many selected rows would be left out because they are blocked. */
    public PreviewAssert skips(long rows) {
        isNotNull();
        long found = actual.impact().skipped().rows();
        if (found != rows) {
            failWithMessage("Expected %d rows to be skipped, but there are %d", rows, found);
        }
        return this;
    }

    /** So many keys were asked for and are not there. */
    public PreviewAssert misses(long keys) {
        isNotNull();
        long found = actual.impact().missing().rows();
        if (found != keys) {
            failWithMessage("Expected %d keys to be missing, but there are %d", keys, found);
        }
        return this;
    }
}
