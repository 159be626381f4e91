// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import io.vacancy.spring.data.Deletions;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface Students extends JpaRepository<Student, Long>, Deletions<Student, Long> {

    List<Student> findAllByOrderByName();
}
