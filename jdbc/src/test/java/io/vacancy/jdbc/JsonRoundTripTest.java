package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.Request;
import io.vacancy.text.json.JsonReader;
import io.vacancy.text.json.JsonWriter;
import java.time.Duration;
import java.util.List;

class JsonRoundTripTest {

    @OnEveryEngine
    void previewQuestionAnswerAndReceiptTravelAsJsonAndComeBackEqual(Engine engine) {
        Bench bench = Bench.harbour(engine);
        JsonWriter writer = new JsonWriter();
        JsonReader reader = new JsonReader(bench.vacancy().schema());
        for (Request request : List.of(
                Request.from("boat").key(17).because("sold").expect(1).waitAtMost(Duration.ofSeconds(3)),
                Request.from("boat").key("14").erase().unasked("nightly"),
                Request.from("berth_service").key("berth_id=101,service=water"),
                Request.from("boat").keys(98, 99),
                Request.from("boat").key(17).expect(2))) {
            Preview preview = bench.vacancy().preview(request);
            assertThat(reader.preview(writer.write(preview))).isEqualTo(preview);
        }

        // Shown in one process, answered in another, carried out in a third.
        String shown = writer.write(bench.vacancy().preview(Request.from("boat").key(17)));
        Preview seen = reader.preview(shown);
        Answer answer = reader.answer(writer.write(seen.question().answer("yes")));
        Outcome outcome = bench.vacancy().carryOut(seen, answer);
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
