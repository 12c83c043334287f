#include "studies/study_desk.h"

#include <QVBoxLayout>

namespace rubble::app {

namespace {

/// A page takes no more than its own height while it is not the one that is shown.
void take_room(QWidget& page, bool shown) {
    page.setSizePolicy(QSizePolicy::Expanding, shown ? QSizePolicy::Expanding : QSizePolicy::Ignored);
}

} // namespace

StudyDesk::StudyDesk(Session& session, PaceStrip* strip, QWidget* parent)
    : QWidget(parent),
      session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    tabs_ = new QTabBar;
    tabs_->setAccessibleName(tr("Under the views"));
    tabs_->setDrawBase(false);
    tabs_->setExpanding(false);
    for (const QString& name :
         {tr("Pace"), tr("Spans"), tr("Players"), tr("What if"), tr("Earlier version"), tr("Two sides")})
        tabs_->addTab(name);
    pages_ = new QStackedWidget;
    spans_ = new SpanTable(session), players_ = new PlayersPage(session), what_if_ = new WhatIfPage(session);
    versions_ = new VersionsPage(session), sides_ = new SidesPage(session);
    for (QWidget* page :
         std::initializer_list<QWidget*>{strip, spans_, players_, what_if_, versions_, sides_})
        pages_->addWidget(page);
    column->addWidget(tabs_);
    column->addWidget(pages_, 1);
    connect(tabs_, &QTabBar::currentChanged, this, &StudyDesk::fit);
    connect(&session_, &Session::stageChanged, this, &StudyDesk::fit);
    connect(strip, &PaceStrip::heightChanged, this, &StudyDesk::fit);
    fit();
}

void StudyDesk::show_page(Page page) {
    if (session_.stage() != Stage::check) session_.go_to(Stage::check);
    tabs_->setCurrentIndex(page);
    fit();
}

/// Elsewhere than in Check the pace strip is there alone.
void StudyDesk::fit() {
    const bool check = session_.stage() == Stage::check;
    tabs_->setVisible(check);
    const int shown = check ? tabs_->currentIndex() : int(pace);
    for (int i = 0; i < pages_->count(); ++i) take_room(*pages_->widget(i), i == shown);
    pages_->setCurrentIndex(shown);
    // The strip says itself how high it is at most.
    const int most = pages_->widget(pace)->maximumHeight() + (check ? tabs_->sizeHint().height() : 0);
    setMaximumHeight(shown == pace ? std::min(most, QWIDGETSIZE_MAX) : QWIDGETSIZE_MAX);
    updateGeometry();
}

} // namespace rubble::app
