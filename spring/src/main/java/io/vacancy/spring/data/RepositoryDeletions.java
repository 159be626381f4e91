// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.data;

import io.vacancy.Vacancy;
import io.vacancy.jpa.Entities;
import io.vacancy.jpa.EntityStep;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.Request;
import java.util.Objects;

/** The fragment behind {@link Deletions}; found by Spring Data, not to be made by hand. */
public class RepositoryDeletions<T, ID> extends RepositoryRequests<T> implements Deletions<T, ID> {

    RepositoryDeletions(Vacancy vacancy, Entities entities) {
        super(vacancy, entities);
    }

    @Override
    public Preview previewDeletion(ID id, String reason) {
        return vacancy.preview(because(deleting().key(id), reason));
    }

    @Override
    public Outcome delete(ID id, String reason, Answer answer) {
        return vacancy.execute(because(deleting().key(id), reason), answer);
    }

    @Override
    public Outcome delete(ID id, String reason) {
        return unasked(because(deleting().key(id), reason));
    }

    @Override
    public Outcome softDelete(ID id, String reason) {
        return unasked(because(entities.softDelete(entity()).key(id), reason));
    }

    @Override
    public Outcome erase(ID id, String reason) {
        return unasked(because(entities.erase(entity()).key(id), reason));
    }

    @Override
    public Outcome restore(ID id, String reason) {
        return unasked(because(entities.restore(entity()).key(id), reason));
    }

    @Override
    public EntityStep<T> deletion() {
        return deleting();
    }

    private static Request because(Request request, String reason) {
        return request.because(Objects.requireNonNull(reason, "reason"));
    }
}
