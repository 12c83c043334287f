#pragma once

#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>

#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// Where a named version of a level's file is kept: in a folder beside it.
QString version_path(const QString& file, const QString& name);

/// What is otherwise than in an earlier version of the level: chosen here, listed, drawn in the views as a
/// ghost and laid over the pace strip.
class VersionsPage : public QWidget {
    Q_OBJECT
public:
    explicit VersionsPage(Session& session, QWidget* parent = nullptr);
    /// Sets the level as it is now aside, to be compared with later.
    void keep_state();
    /// Named versions came or went.
    void look_for_versions() { offer(); }
    /// To the next change, or the one before; after the last comes the first.
    void go(int by);

signals:
    void found(quint64 request, const std::shared_ptr<const rubble::app::Beside>& beside);
    void placeWanted(const rubble::Vec3& at, const std::vector<rubble::ItemId>& items);

private:
    /// A version to compare with.
    struct Version {
        QString title;
        Project project;
        Level level;
    };
    /// What differs, as a row of the list.
    struct Row {
        QString text;
        QColor ink;
        Vec3 at{0};
        std::vector<ItemId> items;
        ItemId differs = {}; ///< the item that it tells of; empty: none
    };
    struct Job {
        Version version;
        std::shared_ptr<const check::CheckResult> was; ///< known from the last time
        Level level;
        std::shared_ptr<const check::CheckResult> now;
    };
    void work(const Job& job, uint64_t number, const Cancel& cancel);
    void offer();
    void choose(int row);
    void choose_file();
    void open_version(const QString& path);
    void choose_in_git();
    /// Makes what the marked row tells of as it is in the other version.
    void take_over();
    std::optional<Version> last_saved() const;
    void compare_with(std::optional<Version> version);
    void ask();
    void take(const std::shared_ptr<const Beside>& beside);
    std::vector<Row> rows_of(const Beside& beside) const;

    Session& session_;
    QComboBox* choice_ = nullptr;
    QLabel* answer_ = nullptr;
    QListWidget* list_ = nullptr;
    QPushButton* take_over_ = nullptr;
    std::vector<Version> kept_; ///< the first as it was opened
    std::optional<Version> version_;
    std::shared_ptr<const check::CheckResult> was_;
    std::vector<Row> rows_;
    quint64 request_ = 0;
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app

Q_DECLARE_METATYPE(std::shared_ptr<const rubble::app::Beside>)
