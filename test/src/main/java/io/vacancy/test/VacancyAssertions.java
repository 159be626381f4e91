// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test;

import io.vacancy.Vacancy;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.ResolvedRules;

/** Entry points of AssertJ assertions on deletions and rules. */
public final class VacancyAssertions {

    private VacancyAssertions() {}

    /** What a request would do. */
    public static PreviewAssert assertThat(Preview actual) {
        return new PreviewAssert(actual);
    }

    /** What a request would do, which is previewed for it; nothing is changed. */
    public static PreviewAssert assertThatPreviewOf(Vacancy vacancy, Request request) {
        return new PreviewAssert(Arguments.notNull(vacancy, "vacancy").preview(request));
    }

    /** How a request ended. */
    public static OutcomeAssert assertThat(Outcome actual) {
        return new OutcomeAssert(actual);
    }

    /** The rules in force. */
    public static RulesAssert assertThat(ResolvedRules actual) {
        return new RulesAssert(actual);
    }
}
