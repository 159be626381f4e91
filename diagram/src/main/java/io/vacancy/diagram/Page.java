// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

/** A diagram as a web page that needs nothing from elsewhere, with everything it shows in words below. */
final class Page {

    private static final String STYLE = """
            body{margin:0;padding:16px;font:15px/1.5 system-ui,sans-serif;color:#16212b;background:#fff}
            figure{margin:0 0 24px;overflow:auto}
            svg{max-width:100%;min-width:min(100%,720px);height:auto;display:block}
            details{margin:0 0 12px}summary{cursor:pointer;font-weight:600}
            table{border-collapse:collapse;margin:8px 0}
            th,td{text-align:left;padding:3px 14px 3px 0;border-bottom:1px solid #d5dbe0;vertical-align:top}
            """;

    private Page() {}

    static String of(Diagram diagram, String svg) {
        Markup page = new Markup().head("<!DOCTYPE html>\n");
        page.open("html", "lang", "en").open("head");
        page.empty("meta", "charset", "utf-8");
        page.empty("meta", "name", "viewport", "content", "width=device-width, initial-scale=1");
        page.element("title", diagram.title()).element("style", STYLE).close();
        page.open("body").open("figure").raw(svg).close();
        page.open("details").element("summary", "The same in words");
        page.open("table")
                .open("tr")
                .element("th", "Table")
                .element("th", "Rows")
                .close();
        for (Diagram.Box box : diagram.boxes()) {
            page.open("tr").element("td", box.table()).element("td", String.join(", ", box.lines()));
            page.close();
        }
        page.close().open("table").open("tr");
        page.element("th", "Child")
                .element("th", "Parent")
                .element("th", "Rule")
                .element("th", "What becomes of it");
        page.close();
        for (Diagram.Arrow arrow : diagram.arrows()) {
            page.open("tr").element("td", arrow.child()).element("td", arrow.parent());
            page.element("td", String.join(" ", arrow.label()));
            page.element("td", arrow.look().words()).close();
        }
        return page.close().close().close().close() + "\n";
    }
}
