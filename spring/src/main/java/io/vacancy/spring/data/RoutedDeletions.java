// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.data;

import io.vacancy.failure.NotDoneException;
import org.springframework.dao.OptimisticLockingFailureException;

/**
 * Has the deletions that a repository has anyway become requests, with rules, archive and audit history, in the table's usual
 * mode. For repositories that say so: {@code interface Boats extends JpaRepository<Boat, Long>, RoutedDeletions<Boat, Long>}.
 * What is not there is left alone, as by any repository; whatever else is not done is a {@link NotDoneException}. Questions that
 * have to be typed are not answered here, so {@code deleteAll()} is refused unless the rule book asks less.
 *
 * @param <T> the entity
 * @param <ID> what identifies it
 */
public interface RoutedDeletions<T, ID> {

    void deleteById(ID id);

    /** @throws OptimisticLockingFailureException if somebody has changed the row since the object was read */
    void delete(T entity);

    void deleteAllById(Iterable<? extends ID> ids);

    /** @throws OptimisticLockingFailureException if somebody has changed a row since its object was read */
    void deleteAll(Iterable<? extends T> entities);

    void deleteAll();

    void deleteAllInBatch();

    void deleteAllInBatch(Iterable<T> entities);

    void deleteAllByIdInBatch(Iterable<ID> ids);
}
