#pragma once

#include <functional>

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QTreeWidget>

#include "newest_job.h"
#include "parcel/parcel.h"
#include "session/session.h"

namespace rubble::app {

/// Who gets a parcel of the level, and where it goes; shows what is in it, what changed since the one that is
/// there, and what of the level is open. The parcel is put together in the background while one looks.
class ParcelDialog : public QDialog {
    Q_OBJECT
public:
    /// `pictures` takes pictures of places, for what is to be read by people.
    ParcelDialog(Session& session, std::function<parcel::Pictures()> pictures, QWidget* parent = nullptr);
    ~ParcelDialog() override;

    /// Where the parcel was written; empty: nowhere yet.
    const QString& written() const { return written_; }

signals:
    void progressed(quint64 number, double part);
    void madeUp(quint64 number);

private:
    struct Job {
        Project project;
        Level level;
        std::shared_ptr<const check::CheckResult> result;
        parcel::ParcelKind kind;
        parcel::Pictures pictures;
    };
    struct Made {
        quint64 number = 0;
        std::optional<Result<parcel::Files>> files;
    };
    void fill_kinds(const QString& chosen);
    void change_parts();
    void put_together();
    void show_made();
    void show_files();
    void write();
    void choose_target();
    bool may_be_made() const;

    Session& session_;
    std::function<parcel::Pictures()> pictures_;
    QComboBox* receiver_;
    QLineEdit* target_;
    QLabel *open_, *changes_;
    QCheckBox *must_hold_, *on_save_;
    QTreeWidget* files_;
    QProgressBar* progress_;
    QPushButton* make_;
    parcel::Open is_open_;
    QString written_;
    quint64 number_ = 0;
    std::mutex guard_;
    Made made_; ///< by the thread, under `guard_`
    parcel::Files shown_;
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app
