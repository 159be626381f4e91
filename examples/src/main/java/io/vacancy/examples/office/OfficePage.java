// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import gg.jte.output.StringOutput;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;

/** A page of the office by a template, which escapes every text. */
abstract class OfficePage extends HttpServlet {

    private static final TemplateEngine TEMPLATES = TemplateEngine.createPrecompiled(
            null, ContentType.Html, OfficePage.class.getClassLoader(), "io.vacancy.examples.office.template");

    static void send(HttpServletResponse response, String template, Object model) throws IOException {
        StringOutput html = new StringOutput();
        TEMPLATES.render(template + ".jte", model, html);
        response.setContentType("text/html;charset=UTF-8");
        response.setHeader("Cache-Control", "no-store");
        response.getWriter().write(html.toString());
    }
}
