# hsieve and git, for jobs: docker build --tag hsieve . && docker run --rm --volume "$PWD:/code" hsieve sift
FROM rust:1-slim-bookworm AS build
RUN apt-get update -qq && apt-get install -y -qq --no-install-recommends gcc libc6-dev
WORKDIR /source
COPY Cargo.toml Cargo.lock ./
COPY crates crates
COPY demo demo
COPY docs docs
# The revision, as git is not in the image.
ARG HSIEVE_REVISION=unknown
RUN HSIEVE_REVISION=$HSIEVE_REVISION cargo build --locked --release -p hsieve

FROM debian:bookworm-slim
RUN apt-get update -qq && apt-get install -y -qq --no-install-recommends git && rm -rf /var/lib/apt/lists/*
COPY --from=build /source/target/release/hsieve /usr/local/bin/hsieve
# A folder that is mounted belongs to another user.
RUN git config --system --add safe.directory '*'
WORKDIR /code
ENTRYPOINT ["hsieve"]
