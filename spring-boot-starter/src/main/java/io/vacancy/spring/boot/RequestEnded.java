// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;

/**
 * The application event of a request that ended. Of what was done in a transaction of the application it is published after
 * its commit, and not at all where that was rolled back.
 */
public record RequestEnded(Request request, Outcome outcome) {}
