from django.urls import path

from .views import cuts, files, report, review, shared

urlpatterns = [
    path("matches/<uuid:match>/review", review.ReviewView.as_view()),
    path("matches/<uuid:match>/prospects", review.ProspectsView.as_view()),
    path("matches/<uuid:match>/prospects/spread", review.SpreadView.as_view()),
    path("matches/<uuid:match>/errors/<str:key>", review.RemarkView.as_view()),
    path("matches/<uuid:match>/chains/<str:key>", review.ChainView.as_view()),
    path("matches/<uuid:match>/notes", review.NotesView.as_view()),
    path("matches/<uuid:match>/notes/<int:note>", review.NoteView.as_view()),
    path("matches/<uuid:match>/cuts", cuts.CutsView.as_view()),
    path("matches/<uuid:match>/cuts/<uuid:cut>", cuts.CutView.as_view()),
    path("matches/<uuid:match>/cuts/<uuid:cut>/<str:part>", cuts.CutContentView.as_view()),
    path("matches/<uuid:match>/letter", report.LetterView.as_view()),
    path("matches/<uuid:match>/report", report.ReportView.as_view()),
    path("matches/<uuid:match>/report.pdf", report.ReportFileView.as_view()),
    path("matches/<uuid:match>/links", report.LinksView.as_view()),
    path("matches/<uuid:match>/links/<uuid:link>", report.LinkView.as_view()),
    path("matches/<uuid:match>/questions", files.QuestionsView.as_view()),
    path("matches/<uuid:match>/questions/<str:form>", files.QuestionsPageView.as_view()),
    path("matches/<uuid:match>/file/<str:form>", files.FileView.as_view()),
    path("kinds", review.KindsView.as_view()),
    path("kinds/<str:kind>", review.KindView.as_view()),
    path("causes", review.CausesView.as_view()),
    path("shared/<str:token>", shared.SharedReportView.as_view()),
    path("shared/<str:token>/report.pdf", shared.SharedFileView.as_view()),
    path("shared/<str:token>/cuts/<uuid:cut>/<str:part>", shared.SharedCutView.as_view()),
    path("shared/<str:token>/answers", shared.SharedAnswersView.as_view()),
    path("shared/<str:token>/drills/<str:key>", shared.SharedDrillView.as_view()),
]
