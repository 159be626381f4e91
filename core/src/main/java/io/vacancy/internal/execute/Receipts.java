// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.RowSample;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Makes one receipt of the parts that several transactions have written. */
public final class Receipts {

    private Receipts() {}

    private record Line(
            TableName table,
            Action action,
            @Nullable String relation,
            @Nullable String becomes) {}

    /** The parts as one; empty where there is none. */
    public static Optional<Receipt> joined(List<Receipt> parts) {
        if (parts.size() < 2) {
            return parts.stream().findFirst();
        }
        Receipt first = parts.get(0);
        Receipt last = parts.get(parts.size() - 1);
        Map<Line, Effect> effects = new LinkedHashMap<>();
        Map<Action, Long> totals = new EnumMap<>(Action.class);
        List<Row> records = new ArrayList<>();
        Set<String> warnings = new LinkedHashSet<>();
        List<Row> sample = new ArrayList<>();
        long skipped = 0;
        for (Receipt part : parts) {
            for (Effect effect : part.effects()) {
                Line line = new Line(effect.table(), effect.action(), effect.relation(), effect.becomes());
                effects.merge(line, effect, Receipts::together);
            }
            part.totals().forEach((action, rows) -> totals.merge(action, rows, Long::sum));
            records.addAll(part.records());
            warnings.addAll(part.warnings());
            skipped += part.skipped().rows();
            sample.addAll(part.skipped().sample());
        }
        return Optional.of(Receipt.of(new Receipt.Data(
                first.id(),
                first.table(),
                first.operation(),
                first.by(),
                first.at(),
                first.because(),
                first.withoutConfirmation(),
                first.deletion(),
                first.rules(),
                new RowSample(skipped, sample),
                complete(records, effects.values()),
                List.copyOf(effects.values()),
                totals,
                List.copyOf(warnings),
                parts.stream().anyMatch(Receipt::archived),
                last.activeCounts(),
                savedTo(parts),
                first.selectedFrom(),
                first.definition())));
    }

    private static @Nullable String savedTo(List<Receipt> parts) {
        String copies = parts.stream()
                .map(Receipt::savedTo)
                .filter(Objects::nonNull)
                .distinct()
                .collect(Collectors.joining(", "));
        return copies.isEmpty() ? null : copies;
    }

    /** Records are all of the selected rows, or none where they are many. */
    private static List<Row> complete(List<Row> records, Collection<Effect> effects) {
        long selected = effects.stream().findFirst().map(Effect::rows).orElse(0L);
        return records.size() == selected ? records : List.of();
    }

    private static Effect together(Effect one, Effect other) {
        return new Effect(
                one.table(), one.action(), one.relation(), one.becomes(), one.rows() + other.rows(), one.sample());
    }
}
