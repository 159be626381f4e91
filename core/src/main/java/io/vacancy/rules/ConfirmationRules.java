// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.question.Question.Strength;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.RuleBook.QuestionEntry;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What has to be agreed to, how, and by how many. */
record ConfirmationRules(Schema schema, List<QuestionEntry> questions, List<ApprovalEntry> approvals) {

    ConfirmationRules {
        questions = List.copyOf(questions);
        approvals = List.copyOf(approvals);
    }

    /** How strong the question is. */
    Strength strength(TableName selectedFrom, boolean everyRow, long goes) {
        List<QuestionEntry> applying = questions.stream()
                .filter(entry -> entry.table() == null || isOf(entry.table(), selectedFrom))
                .filter(entry -> entry.above() == null || goes > entry.above())
                .filter(entry -> everyRow || !entry.everyRow())
                .toList();
        Strength strongest = applying.stream()
                .map(QuestionEntry::strength)
                .max(Comparator.naturalOrder())
                .orElse(Strength.YES_NO);
        // What is said of deletions in general does not speak of emptying a table.
        boolean spoken = !everyRow || applying.stream().anyMatch(QuestionEntry::everyRow);
        return spoken || strongest.compareTo(Strength.TABLE) > 0 ? strongest : Strength.TABLE;
    }

    /** Why somebody else has to approve it; null where nobody has to. */
    @Nullable
    String approval(TableName selectedFrom, OperationKind operation, long goes) {
        return approvals.stream()
                .filter(entry -> entry.table() == null || isOf(entry.table(), selectedFrom))
                .filter(entry -> entry.appliesTo(operation))
                .filter(entry -> entry.above() == null || goes > entry.above())
                .map(ApprovalEntry::told)
                .findFirst()
                .orElse(null);
    }

    private boolean isOf(String table, TableName selectedFrom) {
        return schema.table(table).name().equals(selectedFrom);
    }
}
