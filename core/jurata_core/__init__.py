"""The rules of the job: match log, clock, adjudication, legality. No web, no database."""
