// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.micrometer.core.instrument.MeterRegistry;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import java.util.Objects;

/** Counts requests by table, operation and outcome ({@code vacancy.requests}), and rows by table and action ({@code vacancy.rows}). */
final class VacancyMeters implements Listener {

    private final MeterRegistry registry;

    VacancyMeters(MeterRegistry registry) {
        this.registry = registry;
    }

    @Override
    public void ended(Request request, Outcome outcome) {
        String operation = request.operation().word();
        String table = Objects.requireNonNullElse(request.table(), "");
        if (outcome instanceof Outcome.Done done) {
            operation = done.receipt().operation().word();
            table = done.receipt().table().toString();
            done.receipt().effects().forEach(effect -> registry.counter(
                            "vacancy.rows",
                            "table",
                            effect.table().toString(),
                            "action",
                            effect.action().word())
                    .increment((double) effect.rows()));
        }
        registry.counter(
                        "vacancy.requests",
                        "table",
                        table,
                        "operation",
                        operation,
                        "outcome",
                        outcome.state().word())
                .increment();
    }
}
