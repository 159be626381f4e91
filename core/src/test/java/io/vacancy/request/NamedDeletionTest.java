// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.Parameter.parameter;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Harbour;
import io.vacancy.Vacancy;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Preview;
import io.vacancy.schema.ValueKind;
import java.util.Map;
import org.junit.jupiter.api.Test;

class NamedDeletionTest {

    private final Harbour harbour =
            new Harbour(Harbour.rules(book -> book.deletion("cheap-fees", deletion -> deletion.from("fee")
                    .where(column("amount").lessThan(parameter("below")))
                    .parameter("below", ValueKind.DECIMAL)
                    .atMost(1)
                    .because("not worth it"))));
    private final Vacancy vacancy = harbour.vacancy();

    @Test
    void itsValuesTakeThePlaceOfItsParameters() {
        Request request = vacancy.request("cheap-fees", Map.of("below", "8.50"));
        assertThat(request.deletion()).isEqualTo("cheap-fees");
        assertThat(request.reason()).isEqualTo("not worth it");
        Preview preview = vacancy.preview(request);
        assertThat(preview.impact().records()).singleElement().satisfies(row -> assertThat(row.getLong("id"))
                .isEqualTo(1710));
        assertThat(vacancy.execute(request.expect(1)).receiptOrThrow().deletion())
                .isEqualTo("cheap-fees");
    }

    @Test
    void itsLimitHoldsWhateverIsSaidBesides() {
        Request request = vacancy.request("cheap-fees", Map.of("below", 100)).atMost(50);
        assertThat(vacancy.preview(request).refusal()).contains("at most 1 may be deleted at once");
    }

    @Test
    void aValueThatIsMissingUnknownOrOfAnotherKindIsTold() {
        assertThatThrownBy(() -> vacancy.request("cheap-fees", Map.of()))
                .isInstanceOf(MisuseException.class)
                .hasMessage("Deletion @cheap-fees requires a value for below, and none is given.");
        assertThatThrownBy(() -> vacancy.request("cheap-fees", Map.of("below", "little")))
                .hasMessage("\"little\" cannot be the value of below of deletion @cheap-fees.");
        assertThatThrownBy(() -> vacancy.request("cheap-fees", Map.of("below", 1, "beyond", 2)))
                .hasMessageStartingWith("Deletion @cheap-fees has no parameter beyond");
        assertThatThrownBy(() -> vacancy.request("cheap-fee", Map.of("below", 1)))
                .hasMessage("The rule book has no deletion @cheap-fee; did you mean cheap-fees?");
    }
}
