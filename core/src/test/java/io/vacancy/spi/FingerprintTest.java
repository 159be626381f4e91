// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.preview.Action;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;

class FingerprintTest {

    private static final TableName BOAT = TableName.of("boat");
    private static final TableName FEE = TableName.of("fee");

    @Test
    void doesNotDependOnTheOrderOfRows() {
        String oneWay = of(print -> {
            print.effect(Action.DELETE, BOAT, List.of(1L), null);
            print.effect(Action.DELETE, FEE, List.of(2L), null);
        });
        String other = of(print -> {
            print.effect(Action.DELETE, FEE, List.of(2L), null);
            print.effect(Action.DELETE, BOAT, List.of(1L), null);
        });

        assertThat(oneWay).isEqualTo(other).matches("[0-9a-f]{32}");
    }

    @Test
    void tellsApartWhatDiffersInAnyPart() {
        assertThat(List.of(
                        of(print -> print.effect(Action.DELETE, BOAT, List.of(1L), null)),
                        of(print -> print.effect(Action.DELETE, BOAT, List.of("1"), null)),
                        of(print -> print.effect(Action.DELETE, FEE, List.of(1L), null)),
                        of(print -> print.effect(Action.REASSIGN, BOAT, List.of(1L), null)),
                        of(print -> print.effect(Action.REASSIGN, BOAT, List.of(1L), 3L)),
                        of(print -> print.effect(Action.REASSIGN, BOAT, List.of(1L), 4L)),
                        of(print -> print.effect(Action.DELETE, BOAT, List.of("ab", "c"), null)),
                        of(print -> print.effect(Action.DELETE, BOAT, List.of("a", "bc"), null)),
                        of(print -> print.content(BOAT, List.of(1L))),
                        // A row met twice is not a row not met: sums do not cancel out.
                        of(print -> {
                            print.content(BOAT, List.of(1L));
                            print.content(BOAT, List.of(1L));
                        }),
                        of(print -> {}),
                        new Fingerprint(OperationKind.SOFT_DELETE, false).shown(),
                        new Fingerprint(OperationKind.ERASE, true).shown()))
                .doesNotHaveDuplicates();
    }

    private static String of(Consumer<Fingerprint> rows) {
        Fingerprint print = new Fingerprint(OperationKind.ERASE, false);
        rows.accept(print);
        return print.shown();
    }
}
