// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The rule book is wrong in itself or does not fit the database; it cannot be used until mended. */
public final class RuleBookException extends VacancyException {

    private final List<Problem> problems;

    public RuleBookException(String message, @Nullable String hint) {
        super(message, hint);
        this.problems = List.of(new Problem(true, message, null));
    }

    /** @param problems all that is wrong, at least one thing */
    public RuleBookException(List<Problem> problems) {
        super(
                "The rule book cannot be used: "
                        + problems.stream().map(Problem::toString).collect(Collectors.joining("\n")),
                "Correct it; a check of the rule book lists everything that is wrong with it.");
        this.problems = List.copyOf(problems);
    }

    /** All that is known to be wrong. */
    public List<Problem> problems() {
        return problems;
    }

    @Override
    public String kind() {
        return "rule-book";
    }
}
