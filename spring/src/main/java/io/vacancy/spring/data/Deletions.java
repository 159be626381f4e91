// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.data;

import io.vacancy.jpa.EntityStep;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;

/**
 * What a repository of Spring Data gains by extending this beside its own interface: {@code interface Boats extends
 * JpaRepository<Boat, Long>, Deletions<Boat, Long>}. Each is one request to {@link io.vacancy.Vacancy}, and ends as one does:
 * expected endings are outcomes. No argument may be null.
 *
 * @param <T> the entity
 * @param <ID> what identifies it
 */
public interface Deletions<T, ID> {

    /** Everything that deleting it would do, with the question to ask; nothing is changed. */
    Preview previewDeletion(ID id, String reason);

    /** Deletes what was shown, in the table's usual mode, if the answer is enough. */
    Outcome delete(ID id, String reason, Answer answer);

    /** Deletes it in the table's usual mode. A yes/no question is taken as answered; one that has to be typed is not. */
    Outcome delete(ID id, String reason);

    /** Marks it as deleted, whatever the table's usual mode is. Questions as in {@link #delete(Object, String)}. */
    Outcome softDelete(ID id, String reason);

    /** Removes it, whatever the table's usual mode is. Questions as in {@link #delete(Object, String)}. */
    Outcome erase(ID id, String reason);

    /** Restores it, with what went with it: where it is marked still, else from the archive. */
    Outcome restore(ID id, String reason);

    /** Begins a request for any of them, such as by a condition. */
    EntityStep<T> deletion();
}
