// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.request.Limits;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** What refuses a selection by the number of its rows. */
final class LimitOptions {

    @Option(
            names = "--expect",
            paramLabel = "N",
            description = "Refuse unless exactly N selected rows would be deleted.")
    private @Nullable Long expect;

    @Option(
            names = "--at-most",
            paramLabel = "N",
            description = "Refuse if more than N selected rows would be deleted.")
    private @Nullable Long atMost;

    @Option(
            names = "--at-most-in-all",
            paramLabel = "N",
            description = "Refuse if more than N rows would be deleted, those of other tables included.")
    private @Nullable Long atMostInAll;

    @Option(
            names = "--at-most-percent",
            paramLabel = "P",
            description = "Refuse if more than P per cent of the table's rows would be deleted.")
    private @Nullable Double atMostPercent;

    /** The limits that are given, read. */
    Limits limits() {
        return new Limits(expect, atMost, atMostInAll, atMostPercent);
    }
}
