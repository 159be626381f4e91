// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.data;

import io.vacancy.Vacancy;
import io.vacancy.jpa.Entities;
import io.vacancy.outcome.Outcome;
import java.util.ArrayList;
import java.util.List;
import org.springframework.dao.OptimisticLockingFailureException;

/** The fragment behind {@link RoutedDeletions}; found by Spring Data, not to be made by hand. */
public class RepositoryRouting<T, ID> extends RepositoryRequests<T> implements RoutedDeletions<T, ID> {

    RepositoryRouting(Vacancy vacancy, Entities entities) {
        super(vacancy, entities);
    }

    @Override
    public void deleteById(ID id) {
        done(unasked(deleting().key(id)));
    }

    @Override
    public void delete(T entity) {
        if (!done(unasked(deleting().entity(entity)))) {
            stale(entity);
        }
    }

    private void stale(T entity) {
        long there = vacancy.preview(deleting().key(entities.identifier(entity))).totals().values().stream()
                .mapToLong(Long::longValue)
                .sum();
        if (there > 0) {
            throw new OptimisticLockingFailureException(
                    "The row of " + entity.getClass().getSimpleName()
                            + " has been changed since the object was read, so it was not deleted. Read it again.");
        }
    }

    @Override
    public void deleteAllById(Iterable<? extends ID> ids) {
        List<Object> keys = new ArrayList<>();
        ids.forEach(keys::add);
        if (!keys.isEmpty()) {
            done(unasked(deleting().keys(keys)));
        }
    }

    @Override
    public void deleteAll(Iterable<? extends T> entities) {
        entities.forEach(this::delete);
    }

    @Override
    public void deleteAll() {
        done(unasked(deleting().everyRow()));
    }

    @Override
    public void deleteAllInBatch() {
        deleteAll();
    }

    @Override
    public void deleteAllInBatch(Iterable<T> entities) {
        deleteAll(entities);
    }

    @Override
    public void deleteAllByIdInBatch(Iterable<ID> ids) {
        deleteAllById(ids);
    }

    /** Whether there was something to do. */
    private static boolean done(Outcome outcome) {
        if (outcome instanceof Outcome.Nothing) {
            return false;
        }
        outcome.receiptOrThrow();
        return true;
    }
}
