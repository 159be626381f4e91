// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import io.vacancy.spring.data.RoutedDeletions;
import org.springframework.data.jpa.repository.JpaRepository;

/** Whoever deletes a booking by this repository follows the rules, too. */
interface Bookings extends JpaRepository<Booking, Long>, RoutedDeletions<Booking, Long> {}
