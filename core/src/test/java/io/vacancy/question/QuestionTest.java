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
        assertThat(yesNo.answer(typed).accepted()).isTrue();
        assertThat(yesNo.answer(typed).fingerprint()).isEqualTo("f1");
    }

    @ParameterizedTest
    @NullAndEmptySource
    @ValueSource(strings = {"no", "n", "yess", "ja", "1", "true", "yes please"})
    void anythingElseIsANo(String typed) {
        assertThat(yesNo.answer(typed).accepted()).isFalse();
    }

    @ParameterizedTest
    @CsvSource({"yes", "y"})
    void whatAsksNothingCannotBeAgreedTo(String typed) {
        assertThat(new Question(Strength.NONE, "Nothing to ask.", List.of(), null, "f1")
                        .answer(typed)
                        .accepted())
                .isFalse();
    }
}
