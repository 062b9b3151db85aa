# The application with its demo data: build with  podman build -t nitidus .  and run with
#   podman run -p 127.0.0.1:3210:3210 -v nitidus-data:/nitidus/data nitidus
FROM node:20-bookworm-slim
# One native module is compiled where no built one is to be had.
RUN apt-get update && apt-get install -y --no-install-recommends python3 make g++ git && rm -rf /var/lib/apt/lists/*
WORKDIR /nitidus
COPY . .
RUN npm run setup && npm run build
EXPOSE 3210
# Within the container nothing else listens: the port that is published says who reaches it.
ENV NITIDUS_HOST=0.0.0.0
CMD ["npm", "start"]
