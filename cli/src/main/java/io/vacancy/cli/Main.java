// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import io.vacancy.cli.command.VacancyCommand;
import io.vacancy.cli.screen.Screen;

/** Where the tool starts. */
public final class Main {

    private Main() {}

    public static void main(String[] words) {
        Screen screen = Screen.ofProcess();
        int code = VacancyCommand.runAsUser(screen, words);
        screen.over();
        System.exit(code);
    }
}
