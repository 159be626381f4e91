// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import java.time.Instant;

/** What becomes of the work on a lane when a node puts it down. */
public sealed interface Next {

    /** Nothing is left to do on it. */
    record Over() implements Next {}

    /** It goes on at a time. */
    record Later(Instant at) implements Next {}

    /** It goes on when somebody says so. */
    record OnDemand() implements Next {}

    /** Somebody else has it. */
    record Lost() implements Next {}
}
