package api

import (
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"corrim/core/told"
	"corrim/internal/refusal"
)

// Problem is every refusal on the wire (RFC 9457): a stable type, and a sentence that a person can act on.
type Problem struct {
	Type    string                `json:"type" doc:"Stable name of the kind of problem."`
	Title   string                `json:"title"`
	Status  int                   `json:"status"`
	Detail  string                `json:"detail" doc:"What happened and what to do, for a person."`
	Code    string                `json:"code,omitempty" doc:"Names the sentence, and stays."`
	With    []any                 `json:"with,omitempty" doc:"What differs in the sentence, in its order."`
	Fields  map[string]told.Words `json:"fields,omitempty" doc:"The same for single fields of what was entered."`
	Nearest []time.Time           `json:"nearest,omitempty" doc:"For a taken time: open ones around it."`
}

func (p *Problem) Error() string { return p.Detail }

// GetStatus makes a Problem a huma.StatusError.
func (p *Problem) GetStatus() int { return p.Status }

// ContentType makes huma send problems as what they are.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

var statuses = map[refusal.Kind]int{
	refusal.Invalid: http.StatusUnprocessableEntity, refusal.NotFound: http.StatusNotFound, refusal.NotSignedIn: http.StatusUnauthorized,
	refusal.Taken: http.StatusConflict, refusal.Over: http.StatusConflict, refusal.Unreachable: http.StatusBadGateway,
	refusal.Forbidden: http.StatusForbidden, refusal.Unsure: http.StatusForbidden, refusal.Conflict: http.StatusConflict,
	refusal.TooMany: http.StatusTooManyRequests, refusal.TooLarge: http.StatusRequestEntityTooLarge,
	refusal.Busy: http.StatusServiceUnavailable, refusal.NothingOpen: http.StatusUnprocessableEntity, refusal.OutsideRules: http.StatusUnprocessableEntity,
}

const problemTypes = "urn:corrim:problem:"

func refused(r *refusal.Refusal) *Problem {
	status := statuses[r.Kind]
	return &Problem{problemTypes + string(r.Kind), http.StatusText(status), status, r.Sentence, r.Code, r.With, r.Fields, r.Nearest}
}

// problemOf turns any error of a use case into a problem. An unforeseen one is logged and told without details.
func problemOf(ctx context.Context, log *slog.Logger, err error) error {
	var no *refusal.Refusal
	switch {
	case err == nil:
		return nil
	case errors.As(err, &no):
		return refused(no)
	case errors.Is(err, context.Canceled) || ctx.Err() != nil:
		return failure(http.StatusServiceUnavailable, told.GivenUp.Words())
	}
	log.ErrorContext(ctx, "a request failed", "error", err)
	return failure(http.StatusInternalServerError, told.Failed.Words())
}

// failure is a problem that isn't the reader's.
func failure(status int, words told.Words) *Problem {
	return &Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Detail: words.Sentence, Code: words.Code}
}

// humaProblem is what huma calls for the faults it finds itself. Its own answer would repeat the request's body, which
// may hold private data; only the places and what is wrong with them are kept.
func humaProblem(status int, message string, faults ...error) huma.StatusError {
	p := &Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Detail: message}
	switch status {
	case http.StatusUnprocessableEntity, http.StatusBadRequest:
		p.Type, p.Detail, p.Fields = problemTypes+string(refusal.Invalid), "The request does not have the form that is expected; nothing was changed.", map[string]told.Words{}
		for _, fault := range faults {
			var detail *huma.ErrorDetail
			if errors.As(fault, &detail) {
				p.Fields[strings.TrimPrefix(detail.Location, "body.")] = told.Words{Sentence: detail.Message}
			}
		}
	case http.StatusRequestEntityTooLarge:
		p.Type, p.Detail, p.Code = problemTypes+string(refusal.TooLarge), told.TooLong.Words().Sentence, told.TooLong.Words().Code
	}
	return p
}

// write sends a problem from outside of huma.
func (p *Problem) write(w http.ResponseWriter) {
	w.Header().Set("Content-Type", p.ContentType(""))
	w.WriteHeader(p.Status)
	_ = json.NewEncoder(w).Encode(p) // an error here means that the reader has gone
}
