// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import io.vacancy.Vacancy;
import io.vacancy.condition.SqlText;
import io.vacancy.web.DeletionPages;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;

/** The boats, with a search, tick boxes, and those that have left where somebody wants to see them. */
public final class BoatsPage extends OfficePage {

    private final transient DataSource source;
    private final transient Vacancy vacancy;
    private final transient DeletionPages pages;

    BoatsPage(DataSource source, Vacancy vacancy, DeletionPages pages) {
        this.source = source;
        this.vacancy = vacancy;
        this.pages = pages;
    }

    /** What the template shows. */
    public record Boats(Frame frame, List<Boat> boats, String search, boolean left, String token, String back) {}

    public record Boat(long id, String name, String registration, String skipper, boolean gone) {}

    @Override
    protected void doGet(HttpServletRequest request, HttpServletResponse response) throws IOException {
        String search = request.getParameter("search") == null ? "" : request.getParameter("search");
        boolean left = request.getParameter("left") != null;
        String back = "/boats?search=" + URLEncoder.encode(search, StandardCharsets.UTF_8) + (left ? "&left" : "");
        try {
            send(
                    response,
                    "boats",
                    new Boats(Frame.of("Boats"), boats(search, left), search, left, pages.token(), back));
        } catch (SQLException failed) {
            throw new IOException(failed);
        }
    }

    private List<Boat> boats(String search, boolean left) throws SQLException {
        SqlText active = vacancy.tables().activeSql("boat", "b");
        Integer harbour = Visitor.present().harbour();
        List<Object> values = new ArrayList<>(active.values());
        values.add("%" + search + "%");
        String sql = "SELECT b.id, b.name, b.registration, s.name, CASE WHEN " + active.text() + " THEN 0 ELSE 1 END"
                + " FROM boat b JOIN skipper s ON s.id = b.skipper_id WHERE b.name LIKE ?";
        if (!left) {
            sql += " AND " + active.text();
            values.addAll(active.values());
        }
        if (harbour != null) {
            sql += " AND b.harbour_id = ?";
            values.add(harbour);
        }
        List<Boat> boats = new ArrayList<>();
        try (Connection connection = source.getConnection();
                PreparedStatement statement = connection.prepareStatement(sql + " ORDER BY b.name")) {
            for (int i = 0; i < values.size(); i++) {
                statement.setObject(i + 1, values.get(i));
            }
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    boats.add(new Boat(
                            rows.getLong(1),
                            rows.getString(2),
                            rows.getString(3),
                            rows.getString(4),
                            rows.getInt(5) == 1));
                }
            }
        }
        return boats;
    }
}
