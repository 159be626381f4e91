// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import jakarta.servlet.Filter;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletRequest;
import jakarta.servlet.ServletResponse;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Arrays;

/** Says who somebody is. An application has a real way to sign in, of course. */
final class SignIn extends HttpServlet {

    private static final String COOKIE = "visitor";

    @Override
    protected void doPost(HttpServletRequest request, HttpServletResponse response) throws IOException {
        Cookie cookie = new Cookie(
                COOKIE, Visitor.valueOf(request.getParameter("visitor")).name());
        cookie.setHttpOnly(true);
        cookie.setAttribute("SameSite", "Strict");
        response.addCookie(cookie);
        response.sendRedirect("boats");
    }

    /** Remembers it for the thread of each request. */
    static final class Remembered implements Filter {

        @Override
        public void doFilter(ServletRequest request, ServletResponse response, FilterChain chain)
                throws IOException, ServletException {
            Cookie[] cookies = ((HttpServletRequest) request).getCookies();
            Arrays.stream(cookies == null ? new Cookie[0] : cookies)
                    .filter(cookie -> cookie.getName().equals(COOKIE))
                    .flatMap(cookie -> Arrays.stream(Visitor.values())
                            .filter(visitor -> visitor.name().equals(cookie.getValue())))
                    .findFirst()
                    .orElse(Visitor.MIRA)
                    .enters();
            try {
                chain.doFilter(request, response);
            } finally {
                Visitor.leaves();
            }
        }
    }
}
