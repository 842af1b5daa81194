//! Courses, each with its holes as one document.

use rusqlite::{Connection, OptionalExtension};
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_bag::course::hole::{CourseId, CourseSpec};

use super::{Store, StoreError, folded, from_json, room_for, rounds, to_json};

/// Most courses kept.
const MOST_COURSES: usize = 200;
const COUNT: &str = "SELECT count(*) FROM course WHERE deleted = 0";

/// A course with its identity.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Course {
    /// Identity.
    pub id: CourseId,
    /// The course.
    #[serde(flatten)]
    pub spec: CourseSpec,
}

fn all(connection: &Connection) -> Result<Vec<Course>, StoreError> {
    let mut statement =
        connection.prepare_cached("SELECT id, spec FROM course WHERE deleted = 0 ORDER BY id")?;
    let rows: Vec<(i64, String)> =
        statement.query_map([], |r| Ok((r.get("id")?, r.get("spec")?)))?.collect::<Result<_, _>>()?;
    let course = |(id, spec)| Ok(Course { id: CourseId(id), spec: from_json("course", spec)? });
    rows.into_iter().map(course).collect()
}

fn free(connection: &Connection, name: &str, own: Option<CourseId>) -> Result<(), StoreError> {
    let taken = |c: &Course| Some(c.id) != own && folded(&c.spec.name) == folded(name);
    if all(connection)?.iter().any(taken) {
        return Err(StoreError::NameTaken { what: "course", name: name.trim().to_owned() });
    }
    Ok(())
}

/// Adds a course.
pub(super) fn insert(connection: &Connection, spec: &CourseSpec) -> Result<CourseId, StoreError> {
    free(connection, &spec.name, None)?;
    connection.execute("INSERT INTO course (spec) VALUES (?1)", [to_json(spec)])?;
    let id = CourseId(connection.last_insert_rowid());
    room_for(connection, "course", COUNT, MOST_COURSES)?;
    Ok(id)
}

impl Store {
    /// Every course, the first made first.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn courses(&self) -> Result<Vec<Course>, StoreError> {
        all(&self.connection)
    }

    /// One course.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none or it is deleted.
    pub fn course(&self, id: CourseId) -> Result<Course, StoreError> {
        let spec: Option<String> = self
            .connection
            .prepare_cached("SELECT spec FROM course WHERE id = ?1 AND deleted = 0")?
            .query_row([id.0], |r| r.get("spec"))
            .optional()?;
        let spec = spec.ok_or_else(|| StoreError::NotFound { what: "course", id: id.0.to_string() })?;
        Ok(Course { id, spec: from_json("course", spec)? })
    }

    /// Adds a course.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] or [`StoreError::TooMany`].
    pub fn add_course(&mut self, spec: &CourseSpec) -> Result<CourseId, StoreError> {
        self.change(|connection| Ok((insert(connection, spec)?, format!("{} is added", spec.name.trim()))))
    }

    /// Replaces a course; rounds played on it go by its new name.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] or [`StoreError::NameTaken`].
    pub fn save_course(&mut self, id: CourseId, spec: &CourseSpec) -> Result<(), StoreError> {
        let before = self.course(id)?.spec.name;
        self.change(|connection| {
            free(connection, &spec.name, Some(id))?;
            rounds::rename_course(connection, &before, &spec.name)?;
            connection.execute("UPDATE course SET spec = ?2 WHERE id = ?1", (id.0, to_json(spec)))?;
            Ok(((), format!("{} is saved", spec.name.trim())))
        })
    }

    /// Deletes a course.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none.
    pub fn delete_course(&mut self, id: CourseId) -> Result<(), StoreError> {
        let name = self.course(id)?.spec.name;
        self.change(|connection| {
            connection.execute("UPDATE course SET deleted = 1 WHERE id = ?1", [id.0])?;
            Ok(((), format!("{name} is deleted")))
        })
    }
}
