#pragma once

#include <map>
#include <mutex>

#include <QDialog>
#include <QLabel>
#include <QProgressBar>
#include <QTreeWidget>

#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// The project that is open: its levels in the order of play, with pictures and how they stand, and what all
/// of them agree on. Levels are moved, renamed, duplicated and made here; checking all of them goes on while
/// one works.
class ProjectPage : public QDialog {
    Q_OBJECT
public:
    explicit ProjectPage(Session& session, QWidget* parent = nullptr);
    ~ProjectPage() override;

signals:
    /// A command of the window that leads to what the levels agree on.
    void commandWanted(const QString& id);
    /// A level is to be begun from the walls of this file.
    void beginWanted(const QString& file);
    void checkedLevel(quint64 number, int index, const QString& state, bool good);

private:
    struct Job {
        Document document;
    };
    void fill();
    void fill_agreed();
    void act(const std::function<void(size_t)>& on_chosen);
    void check_all();
    void make_folder();
    void rename();
    void add();

    Session& session_;
    QTreeWidget* list_;
    QLabel *about_, *agreed_;
    QProgressBar* progress_;
    QPushButton* folder_ = nullptr;
    std::map<std::string, QString> states_; ///< what checks said, by the levels' names
    quint64 number_ = 0;
    NewestJob<Job> checks_; ///< the last: it uses the others
};

} // namespace rubble::app
