// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import java.util.stream.Stream;

/** A diagram as a web page that needs nothing from elsewhere, with everything it shows in words below. */
final class Page {

    private static final String STYLE = """
            body{margin:0;padding:16px;font:15px/1.5 system-ui,sans-serif;color:#16212b;background:#fff}
            figure{margin:8px 0 24px;overflow:auto;max-height:90vh}
            svg{max-width:100%;min-width:min(100%,720px);height:auto;display:block}
            .zoom{position:absolute;opacity:0}.zoom+label{padding:2px 10px;border:1px solid #5c6770;cursor:pointer}
            .zoom:checked+label{background:#16212b;color:#fff}.zoom:focus-visible+label{outline:2px solid #1b5a7d}
            #zoom-1:checked~figure svg{max-width:none}
            #zoom-2:checked~figure svg{max-width:none;zoom:2}
            #zoom-half:checked~figure svg{max-width:none;zoom:.5}
            nav{columns:14em;margin:8px 0}nav a{display:block;color:#1b5a7d}
            svg g:target rect.box{stroke:#1b5a7d;stroke-width:6}
            details{margin:0 0 12px}summary{cursor:pointer;font-weight:600}
            table{border-collapse:collapse;margin:8px 0}
            th,td{text-align:left;padding:3px 14px 3px 0;border-bottom:1px solid #d5dbe0;vertical-align:top}
            """;

    /** More tables than one sees at a glance. */
    private static final int FEW = 30;

    private Page() {}

    /** By which a table's box is found within the page: its name, and no character that ends an attribute or a link. */
    static String anchor(String table) {
        StringBuilder anchor = new StringBuilder("table-");
        table.chars().forEach(c -> {
            if (Character.isLetterOrDigit(c) && c < 0x80) {
                anchor.append((char) c);
            } else {
                anchor.append('_').append(Integer.toHexString(c)).append('_');
            }
        });
        return anchor.toString();
    }

    /** How large it is shown, by the page's style alone; and where each table is. */
    private static void index(Diagram diagram, Markup page) {
        zoom(page, "fit", "whole", true);
        zoom(page, "half", "50 %", false);
        zoom(page, "1", "100 %", false);
        zoom(page, "2", "200 %", false);
        page.open("details", "open", "open").element("summary", diagram.boxes().size() + " tables");
        page.open("nav");
        diagram.boxes().stream()
                .map(Diagram.Box::table)
                .sorted()
                .forEach(table -> page.element("a", table, "href", "#" + anchor(table)));
        page.close().close();
    }

    private static void zoom(Markup page, String name, String words, boolean first) {
        Object[] input = {"type", "radio", "class", "zoom", "name", "zoom", "id", "zoom-" + name};
        page.empty(
                "input",
                first
                        ? Stream.concat(Stream.of(input), Stream.of("checked", "checked"))
                                .toArray()
                        : input);
        page.element("label", words, "for", "zoom-" + name);
    }

    static String of(Diagram diagram, String svg) {
        Markup page = new Markup().head("<!DOCTYPE html>\n");
        page.open("html", "lang", "en").open("head");
        page.empty("meta", "charset", "utf-8");
        page.empty("meta", "name", "viewport", "content", "width=device-width, initial-scale=1");
        page.element("title", diagram.title()).element("style", STYLE).close();
        page.open("body");
        if (diagram.boxes().size() > FEW) {
            index(diagram, page);
        }
        page.open("figure").raw(svg).close();
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
