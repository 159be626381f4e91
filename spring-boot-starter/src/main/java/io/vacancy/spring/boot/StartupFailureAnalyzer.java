// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.failure.VacancyException;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.boot.diagnostics.FailureAnalyzer;

/** Says what is wrong with the configuration instead of where it was found. */
final class StartupFailureAnalyzer implements FailureAnalyzer {

    @Override
    public @Nullable FailureAnalysis analyze(Throwable failure) {
        for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
            if (cause instanceof NoActorException) {
                return new FailureAnalysis(cause.getMessage(), NoActorException.ACTION, cause);
            }
            if (cause instanceof RuleBookException || cause instanceof MisuseException) {
                return new FailureAnalysis(cause.getMessage(), action((VacancyException) cause), cause);
            }
        }
        return null;
    }

    private static String action(VacancyException failed) {
        String hint = failed.hint();
        return hint == null ? "Correct what is named above." : hint;
    }
}
