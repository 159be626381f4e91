// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import picocli.CommandLine.Parameters;

/** Which job. */
final class JobName {

    @Parameters(index = "0", paramLabel = "JOB", description = "Its name, as the list of jobs has it.")
    private String name = "";

    String name() {
        return name;
    }
}
