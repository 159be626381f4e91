// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.data;

import io.vacancy.Vacancy;
import io.vacancy.jpa.Entities;
import io.vacancy.jpa.EntityStep;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import org.springframework.data.repository.core.RepositoryMethodContext;
import org.springframework.data.repository.core.support.RepositoryMetadataAccess;

/** Requests for the entity of the repository that is being called; fragments of all repositories share one instance. */
abstract class RepositoryRequests<T> implements RepositoryMetadataAccess {

    final Vacancy vacancy;
    final Entities entities;

    RepositoryRequests(Vacancy vacancy, Entities entities) {
        this.vacancy = vacancy;
        this.entities = entities;
    }

    @SuppressWarnings("unchecked")
    final Class<T> entity() {
        return (Class<T>) RepositoryMethodContext.getContext().getMetadata().getDomainType();
    }

    final EntityStep<T> deleting() {
        return entities.delete(entity());
    }

    final Outcome unasked(Request request) {
        return vacancy.execute(request.acceptUnasked());
    }
}
