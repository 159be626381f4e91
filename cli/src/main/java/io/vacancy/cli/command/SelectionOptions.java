package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Which rows of which table. */
final class SelectionOptions {

    @Parameters(index = "0", paramLabel = "TABLE", description = "The table, with its schema outside the default one.")
    private String table = "";

    @Option(
            names = "--key",
            paramLabel = "K",
            description = "The key of a row; for a key of several columns NAME=VALUE,NAME=VALUE.")
    private @Nullable List<String> keys;

    @Option(names = "--expect", paramLabel = "N", description = "Refuse unless exactly N selected rows would go.")
    private @Nullable Long expect;

    @Option(names = "--because", paramLabel = "WHY", description = "Why; it stands on the receipt.")
    private @Nullable String because;

    @Option(
            names = "--wait",
            paramLabel = "SECONDS",
            description =
                    "How long to wait for rows that somebody else holds; as long as the database does unless given.")
    private @Nullable Integer wait;

    boolean expects() {
        return expect != null;
    }

    Request request() {
        if (keys == null) {
            throw new MisuseException(
                    "Nothing of " + table + " is selected, and nothing never means everything.",
                    "Say which row is meant: --key K.");
        }
        if (keys.size() > 1) {
            throw new MisuseException(
                    "Several selections are given: --key " + String.join(", --key ", keys) + ".", "Give one --key.");
        }
        if (expect != null && expect < 0) {
            throw new MisuseException("--expect " + expect + " is not a number of rows.");
        }
        Request request = Request.from(table).key(keys.get(0));
        request = because == null ? request : request.because(because);
        if (wait != null && wait < 0) {
            throw new MisuseException("Nobody can wait for --wait " + wait + " seconds.");
        }
        request = wait == null ? request : request.waitAtMost(Duration.ofSeconds(wait));
        return expect == null ? request : request.expect(expect);
    }
}
