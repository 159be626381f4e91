// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.page;

import java.io.IOException;

/** Writes pages; an application brings its own to have its own look. Called by many threads. */
@FunctionalInterface
public interface PageRenderer {

    /**
     * Writes a page as HTML, with every text of it escaped.
     *
     * @param out UTF-8
     */
    void render(Page page, Appendable out) throws IOException;
}
