// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import io.vacancy.failure.MisuseException;
import java.util.Locale;

/** A diagram in the form in which it is kept. */
public enum Drawing {
    /** SVG 1.1, with nothing from elsewhere. */
    SVG {
        @Override
        public String of(Diagram diagram) {
            return new Svg(diagram, Layout.of(diagram)).written();
        }
    },
    /** A web page with the picture, and with all that it shows in words; with nothing from elsewhere. */
    HTML {
        @Override
        public String of(Diagram diagram) {
            return Page.of(diagram, SVG.of(diagram));
        }
    },
    /** The text of a Mermaid flowchart. */
    MMD {
        @Override
        public String of(Diagram diagram) {
            return Mermaid.of(diagram);
        }
    };

    /** The text of the diagram. */
    public abstract String of(Diagram diagram);

    /**
     * The form that the end of a file's name asks for.
     *
     * @throws MisuseException if it is none of {@code .svg}, {@code .html} and {@code .mmd}
     */
    public static Drawing named(String file) {
        String name = file.toLowerCase(Locale.ROOT);
        for (Drawing form : values()) {
            if (name.endsWith("." + form.name().toLowerCase(Locale.ROOT))) {
                return form;
            }
        }
        throw new MisuseException(
                "Unknown diagram type in the name " + file + ".", "Use .svg, .html or .mmd (Mermaid text).");
    }
}
