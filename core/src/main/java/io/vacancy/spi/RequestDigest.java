// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.archive.SavedSource;
import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.request.Key;
import io.vacancy.request.Operation;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * A digest (SHA-256) of all that a request says but its reason and its identity, so that the same identity with another
 * request is told apart. Values count as their texts, since the text "17" and the number 17 mean the same key.
 */
public final class RequestDigest {

    private final DataOutputStream out;

    private RequestDigest(DataOutputStream out) {
        this.out = out;
    }

    /** As 64 hexadecimal digits. */
    public static String of(Request request) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            try (DataOutputStream out =
                    new DataOutputStream(new DigestOutputStream(OutputStream.nullOutputStream(), digest))) {
                new RequestDigest(out).write(request);
            }
            return HexFormat.of().formatHex(digest.digest());
        } catch (NoSuchAlgorithmException everyPlatformHasIt) {
            throw new IllegalStateException(everyPlatformHasIt);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
    }

    private void write(Request request) throws IOException {
        write(request.operation());
        text(request.table());
        write(request.selection());
        condition(request.condition());
        text(request.filter() == null ? null : "filter");
        text(request.first());
        text(request.order());
        text(request.limits());
        text(request.withoutConfirmation() == null ? null : "without confirmation");
        text(request.acceptedUnasked());
        text(request.deletion());
        text(request.onBlocked());
        text(request.includesMarked());
        text(request.archived());
        values(request.rules());
        if (!request.others().isEmpty()) {
            text(request.others().size());
            for (Request other : request.others()) {
                write(other);
            }
        }
    }

    private void write(Operation operation) throws IOException {
        text(operation.word());
        if (operation instanceof Operation.Replace replace) {
            values(replace.values());
            text(replace.from());
        } else if (operation instanceof Operation.Restore restore) {
            SavedSource source = restore.source();
            text(restore.receipt());
            text(source == null ? null : source.receipt());
            text(restore.into());
        } else if (operation instanceof Operation.Purge purge) {
            text(purge.receipt());
            text(purge.due());
        } else if (operation instanceof Operation.Merge merge) {
            text(merge.into());
            text(merge.deletingDuplicates());
        } else if (operation instanceof Operation.Drop drop) {
            text(drop.column());
        } else if (operation instanceof Operation.UnlinkOrphans unlink) {
            text(unlink.relation());
        }
    }

    private void write(@Nullable Selection selection) throws IOException {
        text(selection == null ? null : selection.getClass().getSimpleName());
        if (selection instanceof Selection.ByKeys by) {
            text(by.keys().size());
            for (Key key : by.keys()) {
                text(key);
            }
        } else if (selection instanceof Selection.ByMatch match) {
            values(match.values());
        } else if (selection instanceof Selection.ByCondition by) {
            condition(by.condition());
        } else if (selection instanceof Selection.Orphans orphans) {
            text(orphans.relation());
        }
    }

    private void condition(@Nullable Condition condition) throws IOException {
        text(condition == null ? null : ConditionText.of(condition));
    }

    private void values(Map<String, ? extends @Nullable Object> values) throws IOException {
        out.writeInt(values.size());
        for (Map.Entry<String, ? extends @Nullable Object> value : new TreeMap<>(values).entrySet()) {
            text(value.getKey());
            text(value.getValue());
        }
    }

    /** A length keeps ("a", "bc") from ("ab", "c"), and null from every text. */
    private void text(@Nullable Object value) throws IOException {
        if (value == null) {
            out.writeInt(-1);
            return;
        }
        byte[] bytes = value.toString().getBytes(StandardCharsets.UTF_8);
        out.writeInt(bytes.length);
        out.write(bytes);
    }
}
