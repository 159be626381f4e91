// SPDX-License-Identifier: Apache-2.0
package io.vacancy.question;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.question.Question.Strength;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.NullAndEmptySource;
import org.junit.jupiter.params.provider.ValueSource;

class QuestionTest {

    private final Question yesNo = new Question(Strength.YES_NO, "Erase it?", List.of(), "yes", "f1");

    @ParameterizedTest
    @ValueSource(strings = {"yes", "y", "YES", " Yes "})
    void yesIsAYes(String typed) {
        assertThat(yesNo.accepts(typed)).isTrue();
        assertThat(yesNo.answer(typed).fingerprint()).isEqualTo("f1");
    }

    @ParameterizedTest
    @NullAndEmptySource
    @ValueSource(strings = {"no", "n", "yess", "ja", "1", "true", "yes please"})
    void anythingElseIsANo(String typed) {
        assertThat(yesNo.accepts(typed)).isFalse();
    }

    @ParameterizedTest
    @CsvSource({"'', true", "yes, true", "no, false", "stop, false"})
    void whatAsksNothingGoesAheadUnlessSomebodyObjects(String typed, boolean accepted) {
        assertThat(question(Strength.NONE, null).accepts(typed)).isEqualTo(accepted);
    }

    @ParameterizedTest
    @CsvSource({
        "12000, true",
        "'12,000', true",
        "12 000, true",
        " 12000 , true",
        "1200, false",
        "yes, false",
        "12000.0, false"
    })
    void aCountIsTyped(String typed, boolean accepted) {
        assertThat(question(Strength.COUNT, "12000").accepts(typed)).isEqualTo(accepted);
    }

    @ParameterizedTest
    @CsvSource({"boat, true", " boat , true", "BOAT, false", "yes, false", "boats, false"})
    void aNameIsTypedAsItStands(String typed, boolean accepted) {
        assertThat(question(Strength.TABLE, "boat").accepts(typed)).isEqualTo(accepted);
        assertThat(question(Strength.LABEL, "boat").accepts(typed)).isEqualTo(accepted);
    }

    private static Question question(Strength strength, String awaited) {
        return new Question(strength, "Erase?", List.of(), awaited, "f1");
    }
}
