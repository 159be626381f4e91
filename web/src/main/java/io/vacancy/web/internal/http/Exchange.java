// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.http;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** One request and its response. */
public final class Exchange {

    private static final int DRAINED = 1 << 20;

    private final HttpServletRequest request;
    private final HttpServletResponse response;
    private final int longestBody;

    /** @param longestBody in bytes */
    public Exchange(HttpServletRequest request, HttpServletResponse response, int longestBody) {
        this.request = request;
        this.response = response;
        this.longestBody = longestBody;
    }

    public String method() {
        return request.getMethod();
    }

    /** Where the servlet is mounted, without a slash at the end. */
    public String base() {
        return request.getContextPath() + request.getServletPath();
    }

    /** The parts of the path behind that, decoded. */
    public List<String> path() {
        List<String> parts = new ArrayList<>();
        String rest = request.getRequestURI().substring(base().length());
        for (String part : rest.split("/", -1)) {
            if (!part.isEmpty()) {
                parts.add(URLDecoder.decode(part.replace("+", "%2B"), StandardCharsets.UTF_8));
            }
        }
        return parts;
    }

    /** An address under the servlet's, of these parts. */
    public String address(String... parts) {
        StringBuilder address = new StringBuilder(base());
        for (String part : parts) {
            address.append('/')
                    .append(URLEncoder.encode(part, StandardCharsets.UTF_8).replace("+", "%20"));
        }
        return address.toString();
    }

    public @Nullable String header(String name) {
        return request.getHeader(name);
    }

    public @Nullable String parameter(String name) {
        return request.getParameter(name);
    }

    /**
     * The body as a JSON object.
     *
     * @throws ProblemException if it is of another type, too long or anything else
     */
    public ObjectNode body() throws IOException {
        String type = String.valueOf(request.getContentType()).toLowerCase(Locale.ROOT);
        if (!type.split(";", 2)[0].strip().equals("application/json")) {
            throw new ProblemException(415, "media-type", "The body must be application/json.");
        }
        byte[] body = request.getInputStream().readNBytes(longestBody + 1);
        if (body.length > longestBody) {
            throw tooLong();
        }
        return Json.object(body);
    }

    private ProblemException tooLong() {
        return new ProblemException(413, "too-large", "The body has more than " + longestBody + " bytes.");
    }

    /** Sets a header field of the response. */
    public void set(String name, String value) {
        response.setHeader(name, value);
    }

    /** Ends with a JSON document. */
    public void send(int status, JsonNode document) throws IOException {
        send(status, "application/json", document);
    }

    /** Ends without a body. */
    public void send(int status) {
        response.setStatus(status);
    }

    /** Ends in problem details. */
    public void send(ProblemException problem) throws IOException {
        drain(request);
        ObjectNode document = Json.object();
        document.put("type", "urn:vacancy:problem:" + problem.kind());
        document.put("title", Titles.of(problem.kind()));
        document.put("status", problem.status());
        document.put("detail", problem.getMessage());
        document.put("instance", request.getRequestURI());
        problem.members().forEach(document::set);
        problem.headers().forEach(response::setHeader);
        send(problem.status(), "application/problem+json", document);
    }

    /**
     * Lets in what is on its way, so that the client hears why it is refused and the connection is still
     * good for its next request; a flood is cut off.
     */
    public static void drain(HttpServletRequest request) throws IOException {
        request.getInputStream().readNBytes(DRAINED);
    }

    private void send(int status, String type, JsonNode document) throws IOException {
        byte[] bytes = Json.text(document).getBytes(StandardCharsets.UTF_8);
        response.setStatus(status);
        response.setContentType(type);
        response.setContentLength(bytes.length);
        response.getOutputStream().write(bytes);
    }
}
