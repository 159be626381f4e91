// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.json.PreviewDocument;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.List;

class JsonRoundTripTest {

    @OnEveryEngine
    void previewQuestionAnswerAndReceiptTravelAsJsonAndComeBackEqual(Engine engine) {
        Bench bench = Bench.harbour(engine);
        JsonWriter writer = new JsonWriter();
        JsonReader reader = new JsonReader(bench.vacancy().schema());
        for (Request request : List.of(
                Request.delete("boat").key(17).because("sold").expect(1).lockTimeout(Duration.ofSeconds(3)),
                Request.erase("boat").key("14").withoutConfirmation("nightly"),
                Request.delete("berth_service").key("berth_id=101,service=water"),
                Request.delete("boat").keys(98, 99),
                Request.delete("boat").key(17).expect(2))) {
            Preview preview = bench.vacancy().preview(request);
            PreviewDocument document = reader.preview(writer.write(preview));
            assertThat(document.impact()).isEqualTo(preview.impact());
            assertThat(document.question()).isEqualTo(preview.question());
            assertThat(document.state()).isEqualTo(preview.state());
            assertThat(document.refusal()).isEqualTo(preview.refusal());
        }

        // Shown in one process, answered in another, executed in a third, by a request of its own.
        Request request = Request.delete("boat").key(17);
        PreviewDocument shown = reader.preview(writer.write(bench.vacancy().preview(request)));
        Answer answer = reader.answer(writer.write(shown.answer("yes")));
        Outcome outcome = bench.vacancy().execute(request, answer);
        Receipt receipt = outcome.receiptOrThrow();
        assertThat(reader.receipt(writer.write(outcome))).isEqualTo(receipt);
    }

    @OnEveryEngine
    void whatIsNoSuchDocumentIsRefused(Engine engine) {
        JsonReader reader = new JsonReader(Bench.harbour(engine).vacancy().schema());
        for (String wrong : List.of("", "{", "{}", "[]", "{\"version\": 2}", "{\"version\": 1, \"table\": \"bota\"}")) {
            assertThatThrownBy(() -> reader.preview(wrong)).as(wrong).isInstanceOf(MisuseException.class);
            assertThatThrownBy(() -> reader.receipt(wrong)).as(wrong).isInstanceOf(MisuseException.class);
        }
    }
}
