// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Properties;
import picocli.CommandLine.IVersionProvider;

/** The version that the build gave the tool. */
final class ToolVersion implements IVersionProvider {

    @Override
    public String[] getVersion() {
        return new String[] {"vacancy " + number()};
    }

    /** Such as 1.2.0. */
    static String number() {
        Properties built = new Properties();
        try (InputStream in = ToolVersion.class.getResourceAsStream("version.properties")) {
            if (in != null) {
                built.load(in);
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        return built.getProperty("version", "of an unknown build");
    }
}
