// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.access.Scope;
import io.vacancy.jobs.watch.Job;

/**
 * What whoever ordered a job may see and touch, when it is carried out and nobody is logged in; needed beside a
 * {@link CurrentScope}. It has to be the same as when the job was ordered, such as by a tenant in the context of its order.
 */
@FunctionalInterface
public interface JobScope {

    /** Made anew from the actor and the context of the order. */
    Scope of(Job job);
}
