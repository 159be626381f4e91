// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import io.vacancy.Vacancy;
import io.vacancy.diagram.Drawing;
import io.vacancy.diagram.PreviewDiagram;
import io.vacancy.harbour.HarbourOffice;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.web.DeletionApi;
import io.vacancy.web.DeletionPages;
import io.vacancy.web.Exposed;
import io.vacancy.web.Exposure;
import jakarta.servlet.DispatcherType;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.util.EnumSet;
import javax.sql.DataSource;
import org.eclipse.jetty.ee10.servlet.FilterHolder;
import org.eclipse.jetty.ee10.servlet.ServletContextHandler;
import org.eclipse.jetty.ee10.servlet.ServletHolder;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;
import org.sqlite.SQLiteDataSource;

/** Starts the office on a demo database of its own, and says where to open it. */
public final class OfficeApplication {

    private static final int PORT = 8417;

    /** What people may do here at all; who may do what is said in {@link Visitor}. */
    private static final Exposure EXPOSURE = Exposure.build(open -> open.table(
                    "boat", Exposed.ERASE, Exposed.SOFT_DELETE, Exposed.RESTORE, Exposed.ARCHIVE, Exposed.HISTORY)
            .table("mooring", Exposed.ERASE, Exposed.RESTORE, Exposed.ARCHIVE, Exposed.HISTORY));

    private OfficeApplication() {}

    public static void main(String[] args) throws Exception {
        Path file = Files.createTempFile("harbour-office", ".db");
        file.toFile().deleteOnExit();
        Server server = started(file, args.length == 0 ? PORT : Integer.parseInt(args[0]));
        System.out.println("The harbour office is open at http://localhost:"
                + ((ServerConnector) server.getConnectors()[0]).getLocalPort() + "/boats");
        server.join();
    }

    /** @param port 0 for any that is free */
    static Server started(Path file, int port) throws Exception {
        DataSource source = database(file);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(source))
                .rules(RuleBookFile.read(HarbourOffice.ruleBook(), "rules.yaml"))
                .actor(() -> Visitor.present().fullName())
                .scope(() -> Visitor.present().scope())
                .permission(Visitor::refusal)
                .open();
        vacancy.archive().setUp();
        DeletionPages pages = DeletionPages.of(vacancy, () -> Visitor.present().fullName(), EXPOSURE)
                .diagrams(preview -> Drawing.SVG.of(PreviewDiagram.of(preview, vacancy.rules())));

        ServletContextHandler context = new ServletContextHandler("/");
        context.addServlet(new ServletHolder(pages), "/confirm/*");
        context.addServlet(new ServletHolder(DeletionApi.of(vacancy, EXPOSURE)), "/api/*");
        context.addServlet(new ServletHolder(new BoatsPage(source, vacancy, pages)), "/boats");
        context.addServlet(new ServletHolder(new ArchivePage(vacancy, pages)), "/archive");
        context.addServlet(new ServletHolder(new HistoryPage(vacancy)), "/history");
        context.addServlet(new ServletHolder(new SignIn()), "/sign-in");
        context.addServlet(new ServletHolder(new Style()), "/office.css");
        context.addFilter(new FilterHolder(new SignIn.Remembered()), "/*", EnumSet.of(DispatcherType.REQUEST));
        Server server = new Server(port);
        server.setHandler(context);
        server.start();
        return server;
    }

    private static DataSource database(Path file) throws Exception {
        SQLiteDataSource source = new SQLiteDataSource();
        source.setUrl("jdbc:sqlite:" + file);
        try (Connection connection = source.getConnection()) {
            HarbourOffice.build(connection);
        }
        return source;
    }
}
