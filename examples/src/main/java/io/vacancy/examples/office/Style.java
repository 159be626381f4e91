// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.util.Objects;

/** The look of the office's own pages. */
final class Style extends HttpServlet {

    @Override
    protected void doGet(HttpServletRequest request, HttpServletResponse response) throws IOException {
        try (InputStream css = Objects.requireNonNull(Style.class.getResourceAsStream("office.css"))) {
            response.setContentType("text/css;charset=UTF-8");
            css.transferTo(response.getOutputStream());
        }
    }
}
